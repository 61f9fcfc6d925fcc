CREATE TABLE `organisation_accounts` (
	`issuer` varchar(255) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`subject` varchar(255) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`since` datetime(3) NOT NULL,
	CONSTRAINT `organisation_accounts_issuer_subject_pk` PRIMARY KEY(`issuer`,`subject`)
);
--> statement-breakpoint
CREATE INDEX `organisation_accounts_user` ON `organisation_accounts` (`user_id`);