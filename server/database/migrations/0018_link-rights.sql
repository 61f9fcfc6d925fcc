CREATE TABLE `link_guests` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`link_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(80) NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `link_guests_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `edits` MODIFY COLUMN `actor` enum('account','guest','token','app','link') NOT NULL DEFAULT 'account';--> statement-breakpoint
ALTER TABLE `guest_links` ADD `may` varchar(20) DEFAULT 'look' NOT NULL;--> statement-breakpoint
ALTER TABLE `guest_links` ADD `hosts` json DEFAULT ('[]') NOT NULL;--> statement-breakpoint
CREATE INDEX `link_guests_tree` ON `link_guests` (`tree_id`);--> statement-breakpoint
CREATE INDEX `link_guests_link` ON `link_guests` (`link_id`);