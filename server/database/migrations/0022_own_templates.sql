CREATE TABLE `own_templates` (
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(120) NOT NULL,
	`file` varchar(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`size` int NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `own_templates_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `own_templates_of` ON `own_templates` (`user_id`);