CREATE TABLE `opened_files` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`file_id` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `opened_files_tree_id_file_id_user_id_pk` PRIMARY KEY(`tree_id`,`file_id`,`user_id`)
);
--> statement-breakpoint
CREATE TABLE `read_items` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`digest` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3),
	`reminded_at` datetime(3),
	CONSTRAINT `read_items_tree_id_topic_id_user_id_pk` PRIMARY KEY(`tree_id`,`topic_id`,`user_id`)
);
