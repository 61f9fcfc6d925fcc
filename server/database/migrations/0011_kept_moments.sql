CREATE TABLE `kept_moments` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`why` enum('named','brought-in','mass','returned','meeting-begun','meeting-ended') NOT NULL,
	`name` varchar(200) NOT NULL DEFAULT '',
	`by_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `kept_moments_tree_id_number_why_pk` PRIMARY KEY(`tree_id`,`number`,`why`)
);
