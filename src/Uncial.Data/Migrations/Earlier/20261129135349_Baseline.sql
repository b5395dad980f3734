-- What the tables of the versions before have and those of the baseline have not.
alter table confirmations alter column dial_borne_out drop default;
alter table operators alter column user_name drop default;
alter table passes alter column dial_borne_out drop default, alter column grams drop default, alter column metres drop default;
alter table shops alter column rules_id drop default;
