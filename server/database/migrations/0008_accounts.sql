CREATE TABLE `access_log` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`at` datetime(3) NOT NULL,
	`by_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`what` varchar(40) NOT NULL,
	`about` varchar(300) NOT NULL DEFAULT '',
	CONSTRAINT `access_log_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `access_tokens` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(120) NOT NULL,
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`scope` enum('read','write') NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`used_at` datetime(3),
	`until` datetime(3),
	CONSTRAINT `access_tokens_id` PRIMARY KEY(`id`),
	CONSTRAINT `access_tokens_hash` UNIQUE(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `account_links` (
	`token_hash` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`kind` enum('confirm','address','reset') NOT NULL,
	`email` varchar(254) NOT NULL,
	`until` datetime(3) NOT NULL,
	CONSTRAINT `account_links_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `mail_queue` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`to_email` varchar(254) NOT NULL,
	`mail` json NOT NULL,
	`from_user` varchar(40) CHARACTER SET ascii COLLATE ascii_bin,
	`tries` int NOT NULL DEFAULT 0,
	`state` enum('waiting','sent','returned') NOT NULL DEFAULT 'waiting',
	`next_at` datetime(3) NOT NULL,
	`why` varchar(300),
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `mail_queue_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `mail_stopped` (
	`email` varchar(254) NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `mail_stopped_email` PRIMARY KEY(`email`)
);
--> statement-breakpoint
CREATE TABLE `rate_limits` (
	`key` varchar(255) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`points` int NOT NULL DEFAULT 0,
	`expire` bigint unsigned,
	CONSTRAINT `rate_limits_key` PRIMARY KEY(`key`)
);
--> statement-breakpoint
ALTER TABLE `invitations` ADD `until` datetime(3);--> statement-breakpoint
ALTER TABLE `sessions` ADD `seen_at` datetime(3);--> statement-breakpoint
ALTER TABLE `users` ADD `confirmed_at` datetime(3);--> statement-breakpoint
ALTER TABLE `users` ADD `locked_at` datetime(3);--> statement-breakpoint
ALTER TABLE `users` ADD `deleted_at` datetime(3);--> statement-breakpoint
ALTER TABLE `users` ADD `zone` varchar(64);--> statement-breakpoint
ALTER TABLE `users` ADD `picture` mediumblob;--> statement-breakpoint
ALTER TABLE `users` ADD `totp_secret` varchar(64);--> statement-breakpoint
ALTER TABLE `users` ADD `totp_step` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `users` ADD `recovery` json;--> statement-breakpoint
CREATE INDEX `access_log_tree` ON `access_log` (`tree_id`,`id`);--> statement-breakpoint
CREATE INDEX `access_tokens_user` ON `access_tokens` (`user_id`);--> statement-breakpoint
CREATE INDEX `account_links_user` ON `account_links` (`user_id`);--> statement-breakpoint
CREATE INDEX `mail_queue_next` ON `mail_queue` (`state`,`next_at`);--> statement-breakpoint
CREATE INDEX `invitations_email` ON `invitations` (`email`);--> statement-breakpoint
UPDATE `users` SET `confirmed_at` = `created_at`;
