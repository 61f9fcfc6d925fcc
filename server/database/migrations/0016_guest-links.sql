CREATE TABLE `guest_links` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`made_by` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`made_at` datetime(3) NOT NULL,
	`name` varchar(120) NOT NULL,
	`part` json NOT NULL,
	`along` json NOT NULL,
	`copying` boolean NOT NULL,
	`word_hash` varchar(400),
	`until` datetime(3),
	`listed` boolean NOT NULL,
	`opened` int NOT NULL DEFAULT 0,
	`last_opened` datetime(3),
	CONSTRAINT `guest_links_id` PRIMARY KEY(`id`),
	CONSTRAINT `guest_links_token` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE INDEX `guest_links_tree` ON `guest_links` (`tree_id`);