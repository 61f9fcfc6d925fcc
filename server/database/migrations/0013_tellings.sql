CREATE TABLE `telling_marks` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`edits` int NOT NULL,
	`said` int NOT NULL,
	CONSTRAINT `telling_marks_tree_id` PRIMARY KEY(`tree_id`)
);
--> statement-breakpoint
CREATE TABLE `telling_ways` (
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`ways` json,
	`zone` varchar(64),
	`now_at` datetime(3),
	`daily_on` varchar(10),
	`weekly_on` varchar(10),
	CONSTRAINT `telling_ways_user_id` PRIMARY KEY(`user_id`)
);
--> statement-breakpoint
CREATE TABLE `tellings` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`kind` enum('mention','reply','task','date','section','invited','watched') NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`comment` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`by_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`data` json NOT NULL,
	`once` varchar(160) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`read_at` datetime(3),
	`written_at` datetime(3),
	CONSTRAINT `tellings_id` PRIMARY KEY(`id`),
	CONSTRAINT `tellings_once` UNIQUE(`user_id`,`tree_id`,`once`)
);
--> statement-breakpoint
CREATE TABLE `watches` (
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	CONSTRAINT `watches_user_id_tree_id_topic_id_pk` PRIMARY KEY(`user_id`,`tree_id`,`topic_id`)
);
--> statement-breakpoint
CREATE INDEX `tellings_unread` ON `tellings` (`user_id`,`read_at`,`id`);--> statement-breakpoint
CREATE INDEX `tellings_list` ON `tellings` (`user_id`,`id`);--> statement-breakpoint
CREATE INDEX `tellings_unwritten` ON `tellings` (`read_at`,`written_at`);--> statement-breakpoint
CREATE INDEX `tellings_tree` ON `tellings` (`tree_id`);--> statement-breakpoint
CREATE INDEX `watches_tree` ON `watches` (`tree_id`);--> statement-breakpoint
INSERT INTO `telling_marks` (`tree_id`, `edits`, `said`) SELECT t.`id`, t.`version`, coalesce(k.`number`, 0) FROM `trees` t LEFT JOIN `talks` k ON k.`tree_id` = t.`id`;
