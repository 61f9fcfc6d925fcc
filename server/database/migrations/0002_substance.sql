CREATE TABLE `own_views` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(120) NOT NULL,
	`data` json NOT NULL,
	CONSTRAINT `own_views_tree_id_user_id_id_pk` PRIMARY KEY(`tree_id`,`user_id`,`id`)
);
