CREATE TABLE `meeting_guests` (
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`person` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `meeting_guests_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
ALTER TABLE `letters` ADD `from_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin;--> statement-breakpoint
ALTER TABLE `letters` ADD `attachments` json;--> statement-breakpoint
ALTER TABLE `topics` ADD `meets` boolean GENERATED ALWAYS AS (json_exists(rest, '$.meeting')) STORED;--> statement-breakpoint
CREATE INDEX `meeting_guests_topic` ON `meeting_guests` (`tree_id`,`topic_id`);--> statement-breakpoint
CREATE INDEX `letters_from` ON `letters` (`from_user`,`created_at`);--> statement-breakpoint
CREATE INDEX `topics_meets` ON `topics` (`meets`,`tree_id`);