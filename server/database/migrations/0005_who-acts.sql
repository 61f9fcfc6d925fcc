CREATE TABLE `edit_topics` (
	`tree_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`topic_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`number` int NOT NULL,
	CONSTRAINT `edit_topics_tree_id_topic_id_number_pk` PRIMARY KEY(`tree_id`,`topic_id`,`number`)
);
--> statement-breakpoint
ALTER TABLE `edits` ADD `actor` enum('account','guest','token','app') DEFAULT 'account' NOT NULL;--> statement-breakpoint
ALTER TABLE `edits` ADD `behalf` varchar(40) CHARACTER SET ascii COLLATE ascii_bin;--> statement-breakpoint
ALTER TABLE `edits` ADD `format` tinyint DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `edits` ADD `source` json;--> statement-breakpoint
ALTER TABLE `trees` ADD `epoch` varchar(20) CHARACTER SET ascii COLLATE ascii_bin DEFAULT '' NOT NULL;--> statement-breakpoint
INSERT IGNORE INTO `edit_topics` (`tree_id`, `topic_id`, `number`) SELECT e.`tree_id`, c.`topic`, e.`number` FROM `edits` e, JSON_TABLE(e.`changes`, '$[*]' COLUMNS (`topic` varchar(40) PATH '$.topic')) c WHERE c.`topic` IS NOT NULL;
