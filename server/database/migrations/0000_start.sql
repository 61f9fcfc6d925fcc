CREATE TABLE `edits` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`edit_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`changes` json NOT NULL,
	CONSTRAINT `edits_tree_id_number_pk` PRIMARY KEY(`tree_id`,`number`),
	CONSTRAINT `edits_once` UNIQUE(`tree_id`,`edit_id`)
);
--> statement-breakpoint
CREATE TABLE `invitations` (
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`email` varchar(254) NOT NULL,
	`role` enum('viewer','commenter','editor','owner') NOT NULL,
	`invited_by` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`used_at` datetime(3),
	CONSTRAINT `invitations_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `letters` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`to_email` varchar(254) NOT NULL,
	`subject` varchar(300) NOT NULL,
	`body` mediumtext NOT NULL,
	`link` varchar(1000),
	`created_at` datetime(3) NOT NULL,
	`read_at` datetime(3),
	CONSTRAINT `letters_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `members` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`role` enum('viewer','commenter','editor','owner') NOT NULL,
	`seen_version` int NOT NULL DEFAULT 0,
	`seen_at` datetime(3),
	CONSTRAINT `members_tree_id_user_id_pk` PRIMARY KEY(`tree_id`,`user_id`)
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`id` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`agent` varchar(300) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `sessions_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `sign_in_failures` (
	`what` varchar(300) NOT NULL,
	`count` int NOT NULL,
	`until` datetime(3) NOT NULL,
	CONSTRAINT `sign_in_failures_what` PRIMARY KEY(`what`)
);
--> statement-breakpoint
CREATE TABLE `snapshots` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	`data` longblob NOT NULL,
	CONSTRAINT `snapshots_tree_id_number_pk` PRIMARY KEY(`tree_id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `topic_markers` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`marker` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`place` int NOT NULL,
	CONSTRAINT `topic_markers_tree_id_topic_id_marker_pk` PRIMARY KEY(`tree_id`,`topic_id`,`marker`)
);
--> statement-breakpoint
CREATE TABLE `topic_people` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`place` int NOT NULL,
	CONSTRAINT `topic_people_tree_id_topic_id_user_id_pk` PRIMARY KEY(`tree_id`,`topic_id`,`user_id`)
);
--> statement-breakpoint
CREATE TABLE `topics` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`parent` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`order_key` varchar(400) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`removed` boolean NOT NULL,
	`title` text NOT NULL,
	`start` varchar(10),
	`due` varchar(10),
	`duration` double,
	`done` tinyint,
	`priority` tinyint,
	`rest` json NOT NULL,
	`links` json NOT NULL,
	`note` mediumblob,
	CONSTRAINT `topics_tree_id_id_pk` PRIMARY KEY(`tree_id`,`id`)
);
--> statement-breakpoint
CREATE TABLE `trees` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`centre` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`title` text NOT NULL,
	`fields` json NOT NULL,
	`version` int NOT NULL,
	`topic_count` int NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`changed_at` datetime(3) NOT NULL,
	`changed_by` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`trashed_at` datetime(3),
	CONSTRAINT `trees_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `users` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`email` varchar(254) NOT NULL,
	`name` varchar(120) NOT NULL,
	`password_hash` varchar(400) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `users_id` PRIMARY KEY(`id`),
	CONSTRAINT `users_email` UNIQUE(`email`)
);
--> statement-breakpoint
CREATE INDEX `invitations_tree` ON `invitations` (`tree_id`);--> statement-breakpoint
CREATE INDEX `letters_to` ON `letters` (`to_email`,`created_at`);--> statement-breakpoint
CREATE INDEX `members_user` ON `members` (`user_id`);--> statement-breakpoint
CREATE INDEX `sessions_user` ON `sessions` (`user_id`);--> statement-breakpoint
CREATE INDEX `topic_people_user` ON `topic_people` (`user_id`);--> statement-breakpoint
CREATE INDEX `topics_due` ON `topics` (`due`);--> statement-breakpoint
CREATE INDEX `trees_changed` ON `trees` (`changed_at`);