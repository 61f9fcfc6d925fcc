-- A branch with a page of its own has an annex now; the log keeps what was written and is read in the new words.
UPDATE `topics` SET `rest` = REPLACE(`rest`, '"page":true', '"annex":true') WHERE `rest` LIKE '%"page":true%';--> statement-breakpoint
UPDATE `trees` SET `fields` = REPLACE(`fields`, '"is":"page"', '"is":"annex"') WHERE `fields` LIKE '%"is":"page"%';--> statement-breakpoint
UPDATE `own_views` SET `data` = REPLACE(`data`, '"is":"page"', '"is":"annex"') WHERE `data` LIKE '%"is":"page"%';
