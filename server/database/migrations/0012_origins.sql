ALTER TABLE `kept_moments` MODIFY COLUMN `why` enum('named','brought-in','mass','returned','merged','meeting-begun','meeting-ended') NOT NULL;--> statement-breakpoint
ALTER TABLE `trees` ADD `from_tree` varchar(40) CHARACTER SET ascii COLLATE ascii_bin;--> statement-breakpoint
ALTER TABLE `trees` ADD `from_number` int;--> statement-breakpoint
CREATE INDEX `trees_centre` ON `trees` (`centre`);