CREATE TABLE `made_chunks` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`data` mediumblob NOT NULL,
	CONSTRAINT `made_chunks_id_number_pk` PRIMARY KEY(`id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `made_files` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`kind` varchar(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`state` varchar(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(300) NOT NULL,
	`type` varchar(120) NOT NULL,
	`size` int NOT NULL,
	`said` varchar(500) NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `made_files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `made_files_of` ON `made_files` (`tree_id`,`user_id`);--> statement-breakpoint
CREATE INDEX `made_files_at` ON `made_files` (`at`);