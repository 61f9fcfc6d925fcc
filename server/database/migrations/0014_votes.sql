CREATE TABLE `ballots` (
	`vote_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`cast` json,
	CONSTRAINT `ballots_vote_id_user_id_pk` PRIMARY KEY(`vote_id`,`user_id`)
);
--> statement-breakpoint
CREATE TABLE `votes` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`question` varchar(500) NOT NULL,
	`kind` enum('yes-no','points','order') NOT NULL,
	`choices` json NOT NULL,
	`points` int NOT NULL,
	`secret` boolean NOT NULL,
	`by_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`closed_at` datetime(3),
	`closed_by` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`sums` json,
	CONSTRAINT `votes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `ballots_tree` ON `ballots` (`tree_id`);--> statement-breakpoint
CREATE INDEX `votes_tree` ON `votes` (`tree_id`,`closed_at`);