CREATE TABLE `linked_pages` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`address` varchar(2000) NOT NULL,
	`title` varchar(300) NOT NULL,
	`summary` varchar(600) NOT NULL,
	`picture` varchar(64) CHARACTER SET ascii COLLATE ascii_bin,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `linked_pages_tree_id_id_pk` PRIMARY KEY(`tree_id`,`id`)
);
--> statement-breakpoint
ALTER TABLE `trees` ADD `pages` boolean DEFAULT false NOT NULL;