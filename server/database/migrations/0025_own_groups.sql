CREATE TABLE `own_groups` (
	`user_id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`id` varchar(40) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
	`name` varchar(80) NOT NULL,
	`who` json NOT NULL,
	`shared` json NOT NULL,
	CONSTRAINT `own_groups_user_id_id_pk` PRIMARY KEY(`user_id`,`id`)
);
