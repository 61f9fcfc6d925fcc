CREATE TABLE `calendar_addresses` (
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `calendar_addresses_user_id` PRIMARY KEY(`user_id`),
	CONSTRAINT `calendar_addresses_token` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `reminders` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`due` varchar(10) NOT NULL,
	`on_day` boolean NOT NULL,
	CONSTRAINT `reminders_tree_id_topic_id_user_id_due_on_day_pk` PRIMARY KEY(`tree_id`,`topic_id`,`user_id`,`due`,`on_day`)
);
