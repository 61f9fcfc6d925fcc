CREATE TABLE `file_chunks` (
	`id` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`data` mediumblob NOT NULL,
	CONSTRAINT `file_chunks_id_number_pk` PRIMARY KEY(`id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `files` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`type` varchar(120) NOT NULL,
	`size` int NOT NULL,
	`width` int,
	`height` int,
	`created_at` datetime(3) NOT NULL,
	`created_by` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	CONSTRAINT `files_tree_id_id_pk` PRIMARY KEY(`tree_id`,`id`)
);
--> statement-breakpoint
ALTER TABLE `trees` ADD `starter` boolean DEFAULT false NOT NULL;