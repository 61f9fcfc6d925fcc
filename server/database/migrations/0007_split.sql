-- Main branches had a side each; now the centre has the order key at which the left side begins: as many stay on the
-- right as there were. The log keeps what was written and is read in the new words.
UPDATE `topics` `centre` JOIN (
  SELECT `topics`.`tree_id`, `topics`.`parent`, `topics`.`order_key`,
    ROW_NUMBER() OVER `mains` AS `place`,
    SUM(`topics`.`rest` NOT LIKE '%"side":"left"%') OVER (PARTITION BY `topics`.`tree_id`, `topics`.`parent`) AS `right`
  FROM `topics` JOIN `trees` ON `trees`.`id` = `topics`.`tree_id` AND `trees`.`centre` = `topics`.`parent`
  WHERE NOT `topics`.`removed`
  WINDOW `mains` AS (PARTITION BY `topics`.`tree_id`, `topics`.`parent` ORDER BY `topics`.`order_key`, `topics`.`id`)
) `main` ON `main`.`tree_id` = `centre`.`tree_id` AND `main`.`parent` = `centre`.`id` AND `main`.`place` = `main`.`right` + 1
SET `centre`.`rest` = JSON_SET(`centre`.`rest`, '$.split', `main`.`order_key`);--> statement-breakpoint
UPDATE `topics` SET `rest` = JSON_REMOVE(`rest`, '$.side') WHERE `rest` LIKE '%"side":%';
