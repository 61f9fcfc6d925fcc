CREATE TABLE `comments` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`thread_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`by_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`edited` datetime(3),
	`withdrawn` boolean NOT NULL DEFAULT false,
	`body` json,
	`text` mediumtext NOT NULL,
	`mentions` json NOT NULL,
	`became` json,
	CONSTRAINT `comments_tree_id_id_pk` PRIMARY KEY(`tree_id`,`id`)
);
--> statement-breakpoint
CREATE TABLE `sayings` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`saying_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`comment` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`thread_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`data` json NOT NULL,
	CONSTRAINT `sayings_tree_id_number_pk` PRIMARY KEY(`tree_id`,`number`),
	CONSTRAINT `sayings_once` UNIQUE(`tree_id`,`saying_id`)
);
--> statement-breakpoint
CREATE TABLE `talks` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	CONSTRAINT `talks_tree_id` PRIMARY KEY(`tree_id`)
);
--> statement-breakpoint
CREATE TABLE `threads` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`place` json NOT NULL,
	`settled` json,
	`size` int NOT NULL,
	`newest` int NOT NULL,
	CONSTRAINT `threads_tree_id_id_pk` PRIMARY KEY(`tree_id`,`id`)
);
--> statement-breakpoint
ALTER TABLE `members` ADD `bench_seen` int DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `comments_thread` ON `comments` (`tree_id`,`thread_id`,`number`);--> statement-breakpoint
CREATE INDEX `sayings_comment` ON `sayings` (`tree_id`,`comment`);--> statement-breakpoint
CREATE INDEX `threads_topic` ON `threads` (`tree_id`,`topic_id`);--> statement-breakpoint
CREATE INDEX `threads_newest` ON `threads` (`tree_id`,`newest`);