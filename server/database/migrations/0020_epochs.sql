CREATE TABLE `tree_epochs` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`epoch` varchar(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`until` int NOT NULL,
	CONSTRAINT `tree_epochs_tree_id_epoch_pk` PRIMARY KEY(`tree_id`,`epoch`)
);
