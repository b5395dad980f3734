create temporary table earlier_people on commit drop as
    select o.id, o.user_name, o.password_hash, (select r.name from operator_roles ur join roles r on r.id = ur.role_id where ur.user_id = o.id
        order by array_position(array['owner', 'lead', 'operator'], r.name::text) limit 1) as role from operators o;
ALTER TABLE bins_emptied DROP CONSTRAINT fk_bins_emptied_users_by_id;
ALTER TABLE book DROP CONSTRAINT fk_book_users_by_id;
ALTER TABLE certificates DROP CONSTRAINT fk_certificates_users_by_id;
ALTER TABLE chatters DROP CONSTRAINT fk_chatters_users_by_id;
ALTER TABLE confirmations DROP CONSTRAINT fk_confirmations_users_by_id;
ALTER TABLE cut_starts DROP CONSTRAINT fk_cut_starts_users_by_id;
ALTER TABLE cut_stops DROP CONSTRAINT fk_cut_stops_users_by_id;
ALTER TABLE findings DROP CONSTRAINT fk_findings_users_by_id;
ALTER TABLE finishes DROP CONSTRAINT fk_finishes_users_by_id;
ALTER TABLE insert_events DROP CONSTRAINT fk_insert_events_users_by_id;
ALTER TABLE jobs DROP CONSTRAINT fk_jobs_users_received_by_id;
ALTER TABLE limit_entries DROP CONSTRAINT fk_limit_entries_users_by_id;
ALTER TABLE limit_settlements DROP CONSTRAINT fk_limit_settlements_users_by_id;
ALTER TABLE mounts DROP CONSTRAINT fk_mounts_users_by_id;
ALTER TABLE outcome_withdrawals DROP CONSTRAINT fk_outcome_withdrawals_users_by_id;
ALTER TABLE outcome_withdrawals DROP CONSTRAINT fk_outcome_withdrawals_users_signed_by_id;
ALTER TABLE outcomes DROP CONSTRAINT fk_outcomes_users_by_id;
ALTER TABLE outcomes DROP CONSTRAINT fk_outcomes_users_signed_by_id;
ALTER TABLE passes DROP CONSTRAINT fk_passes_users_by_id;
ALTER TABLE plans DROP CONSTRAINT fk_plans_users_by_id;
ALTER TABLE prints DROP CONSTRAINT fk_prints_users_by_id;
ALTER TABLE reading_flags DROP CONSTRAINT fk_reading_flags_users_by_id;
ALTER TABLE readings DROP CONSTRAINT fk_readings_users_by_id;
ALTER TABLE set_up_checks DROP CONSTRAINT fk_set_up_checks_users_by_id;
ALTER TABLE set_up_decisions DROP CONSTRAINT fk_set_up_decisions_users_by_id;
ALTER TABLE withdrawals DROP CONSTRAINT fk_withdrawals_users_by_id;
ALTER TABLE zero_checks DROP CONSTRAINT fk_zero_checks_users_by_id;
DROP TABLE operator_claims;
DROP TABLE operator_logins;
DROP TABLE operator_roles;
DROP TABLE operator_tokens;
DROP TABLE role_claims;
DROP TABLE roles;
DROP INDEX ix_zero_checks_gauge_id_at;
DROP INDEX ix_readings_gauge_id;
DROP INDEX "EmailIndex";
DROP INDEX "UserNameIndex";
ALTER TABLE operators DROP COLUMN access_failed_count;
ALTER TABLE operators DROP COLUMN concurrency_stamp;
ALTER TABLE operators DROP COLUMN email;
ALTER TABLE operators DROP COLUMN email_confirmed;
ALTER TABLE operators DROP COLUMN lockout_enabled;
ALTER TABLE operators DROP COLUMN normalized_email;
ALTER TABLE operators DROP COLUMN normalized_user_name;
ALTER TABLE operators DROP COLUMN password_hash;
ALTER TABLE operators DROP COLUMN phone_number;
ALTER TABLE operators DROP COLUMN phone_number_confirmed;
ALTER TABLE operators DROP COLUMN security_stamp;
ALTER TABLE operators DROP COLUMN two_factor_enabled;
ALTER TABLE operators DROP COLUMN lockout_end;
ALTER TABLE operators ADD disabled_at timestamp with time zone;
CREATE EXTENSION IF NOT EXISTS pg_trgm;
CREATE EXTENSION IF NOT EXISTS pgcrypto;
CREATE SEQUENCE job_number AS integer START WITH 1001 INCREMENT BY 1 NO CYCLE;
ALTER TABLE withdrawals ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE withdrawals ADD signature_id bigint;
ALTER TABLE surfaces ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE shops ADD rules_id bigint NOT NULL DEFAULT 0;
ALTER TABLE set_up_decisions ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE set_up_checks ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE readings ADD after_check_id bigint DEFAULT (null);
ALTER TABLE readings ADD line character varying(60);
ALTER TABLE readings ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE reading_flags ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE prints ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE plans ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE plans ADD signature_id bigint;
ALTER TABLE passes ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE parts ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE outcomes ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE outcomes ADD signature_id bigint;
ALTER TABLE outcome_withdrawals ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE outcome_withdrawals ADD signature_id bigint;
ALTER TABLE operators ALTER COLUMN user_name TYPE character varying(40);
UPDATE operators SET user_name = '' WHERE user_name IS NULL;
ALTER TABLE operators ALTER COLUMN user_name SET NOT NULL;
ALTER TABLE operators ALTER COLUMN user_name SET DEFAULT '';
ALTER TABLE operators ADD role character varying(20) NOT NULL DEFAULT 'operator';
ALTER TABLE mounts ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE limit_settlements ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE limit_settlements ADD signature_id bigint;
ALTER TABLE limit_entries ADD book_entry_id integer;
ALTER TABLE limit_entries ADD copied_from_id bigint;
ALTER TABLE limit_entries ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE limit_entries ADD rules_id bigint DEFAULT (null);
ALTER TABLE limit_entries ADD signature_id bigint;
ALTER TABLE jobs ALTER COLUMN number SET DEFAULT (nextval('job_number'));
ALTER TABLE finishes ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE findings ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE finding_withdrawals ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE finding_withdrawals ADD signature_id bigint;
ALTER TABLE cut_stops ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE cut_starts ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE confirmations ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE confirmations ADD rules_id bigint DEFAULT (null);
ALTER TABLE chatters ADD number integer NOT NULL DEFAULT 0;
ALTER TABLE certificates ADD number integer NOT NULL DEFAULT 0;
CREATE TABLE fact_counters (
    part_id integer NOT NULL,
    last integer NOT NULL,
    CONSTRAINT pk_fact_counters PRIMARY KEY (part_id)
);
CREATE TABLE people_events (
    id bigint GENERATED BY DEFAULT AS IDENTITY,
    act text NOT NULL,
    operator_id integer,
    screen_id integer,
    detail character varying(120),
    at timestamp with time zone NOT NULL,
    by_id integer NOT NULL,
    CONSTRAINT pk_people_events PRIMARY KEY (id),
    CONSTRAINT fk_people_events_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT
);
CREATE TABLE pin_delays (
    operator_id integer NOT NULL,
    place character varying(80) NOT NULL,
    misses integer NOT NULL,
    last_at timestamp with time zone NOT NULL,
    CONSTRAINT pk_pin_delays PRIMARY KEY (operator_id, place)
);
CREATE TABLE pin_tries (
    id bigint GENERATED BY DEFAULT AS IDENTITY,
    operator_id integer NOT NULL,
    screen_id integer,
    address character varying(64),
    commitment bytea NOT NULL,
    at timestamp with time zone NOT NULL,
    transaction character varying(20) NOT NULL,
    "right" boolean,
    purpose character varying(40),
    CONSTRAINT pk_pin_tries PRIMARY KEY (id)
);
CREATE TABLE pins (
    operator_id integer NOT NULL,
    hash character varying(100),
    earlier bytea,
    set_at timestamp with time zone NOT NULL,
    CONSTRAINT pk_pins PRIMARY KEY (operator_id),
    CONSTRAINT fk_pins_operators_operator_id FOREIGN KEY (operator_id) REFERENCES operators (id) ON DELETE RESTRICT
);
CREATE TABLE screens (
    id integer GENERATED BY DEFAULT AS IDENTITY,
    name character varying(60) NOT NULL,
    token_hash bytea NOT NULL,
    enrolled_at timestamp with time zone NOT NULL,
    enrolled_by_id integer,
    address character varying(64),
    retired_at timestamp with time zone,
    CONSTRAINT pk_screens PRIMARY KEY (id),
    CONSTRAINT fk_screens_operators_enrolled_by_id FOREIGN KEY (enrolled_by_id) REFERENCES operators (id) ON DELETE RESTRICT
);
CREATE TABLE shop_chain (
    number bigint NOT NULL,
    ref_table character varying(40) NOT NULL,
    ref_id character varying(80) NOT NULL,
    op character varying(1) NOT NULL,
    row_hash bytea NOT NULL,
    hash bytea NOT NULL,
    at timestamp with time zone NOT NULL,
    CONSTRAINT pk_shop_chain PRIMARY KEY (number)
);
CREATE TABLE signatures (
    id bigint GENERATED BY DEFAULT AS IDENTITY,
    part_id integer,
    signed_for text NOT NULL,
    subject character varying(200) NOT NULL,
    reason character varying(300) NOT NULL,
    signed_by_id integer NOT NULL,
    role character varying(20) NOT NULL,
    pin_checked boolean NOT NULL,
    screen_id integer,
    transaction character varying(20) NOT NULL DEFAULT '',
    at timestamp with time zone NOT NULL,
    by_id integer NOT NULL,
    number integer NOT NULL DEFAULT 0,
    CONSTRAINT pk_signatures PRIMARY KEY (id),
    CONSTRAINT fk_signatures_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT,
    CONSTRAINT fk_signatures_operators_signed_by_id FOREIGN KEY (signed_by_id) REFERENCES operators (id) ON DELETE RESTRICT,
    CONSTRAINT fk_signatures_parts_part_id FOREIGN KEY (part_id) REFERENCES parts (id) ON DELETE RESTRICT
);
CREATE TABLE sessions (
    id bigint GENERATED BY DEFAULT AS IDENTITY,
    operator_id integer NOT NULL,
    screen_id integer NOT NULL,
    token_hash bytea NOT NULL,
    started_at timestamp with time zone NOT NULL,
    seen_at timestamp with time zone NOT NULL,
    ended_at timestamp with time zone,
    ended_by character varying(40),
    CONSTRAINT pk_sessions PRIMARY KEY (id),
    CONSTRAINT fk_sessions_operators_operator_id FOREIGN KEY (operator_id) REFERENCES operators (id) ON DELETE RESTRICT,
    CONSTRAINT fk_sessions_screens_screen_id FOREIGN KEY (screen_id) REFERENCES screens (id) ON DELETE RESTRICT
);
CREATE TABLE rule_changes (
    id bigint GENERATED BY DEFAULT AS IDENTITY,
    before jsonb,
    after jsonb NOT NULL,
    laxer boolean NOT NULL DEFAULT FALSE,
    reason character varying(300),
    signature_id bigint,
    at timestamp with time zone NOT NULL,
    by_id integer NOT NULL,
    CONSTRAINT pk_rule_changes PRIMARY KEY (id),
    CONSTRAINT fk_rule_changes_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT,
    CONSTRAINT fk_rule_changes_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT
);
CREATE INDEX ix_zero_checks_gauge_id_id ON zero_checks (gauge_id, id);
CREATE UNIQUE INDEX ix_withdrawals_signature_id ON withdrawals (signature_id);
CREATE UNIQUE INDEX ix_readings_gauge_id_line ON readings (gauge_id, line);
CREATE UNIQUE INDEX ix_plans_signature_id ON plans (signature_id);
CREATE UNIQUE INDEX ix_outcomes_signature_id ON outcomes (signature_id);
CREATE UNIQUE INDEX ix_outcome_withdrawals_signature_id ON outcome_withdrawals (signature_id);
CREATE UNIQUE INDEX ix_operators_user_name ON operators (user_name);
ALTER TABLE operators ADD CONSTRAINT ck_operators_role CHECK (role in ('operator', 'lead', 'owner'));
CREATE UNIQUE INDEX ix_limit_settlements_signature_id ON limit_settlements (signature_id);
CREATE INDEX ix_limit_entries_book_entry_id ON limit_entries (book_entry_id);
CREATE INDEX ix_limit_entries_copied_from_id ON limit_entries (copied_from_id);
CREATE UNIQUE INDEX ix_limit_entries_signature_id ON limit_entries (signature_id);
CREATE UNIQUE INDEX ix_finding_withdrawals_signature_id ON finding_withdrawals (signature_id);
CREATE INDEX ix_people_events_by_id ON people_events (by_id);
CREATE INDEX ix_pin_tries_operator_id_at ON pin_tries (operator_id, at);
CREATE INDEX ix_rule_changes_by_id ON rule_changes (by_id);
CREATE UNIQUE INDEX ix_rule_changes_signature_id ON rule_changes (signature_id);
CREATE INDEX ix_screens_enrolled_by_id ON screens (enrolled_by_id);
CREATE UNIQUE INDEX ix_screens_token_hash ON screens (token_hash);
CREATE INDEX ix_sessions_operator_id ON sessions (operator_id);
CREATE INDEX ix_sessions_screen_id ON sessions (screen_id);
CREATE UNIQUE INDEX ix_sessions_token_hash ON sessions (token_hash);
CREATE INDEX ix_shop_chain_at ON shop_chain (at);
CREATE INDEX ix_shop_chain_ref_table_ref_id_number ON shop_chain (ref_table, ref_id, number);
CREATE INDEX ix_signatures_by_id ON signatures (by_id);
CREATE INDEX ix_signatures_part_id ON signatures (part_id);
CREATE INDEX ix_signatures_signed_by_id ON signatures (signed_by_id);
ALTER TABLE bins_emptied ADD CONSTRAINT fk_bins_emptied_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE book ADD CONSTRAINT fk_book_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE certificates ADD CONSTRAINT fk_certificates_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE chatters ADD CONSTRAINT fk_chatters_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE confirmations ADD CONSTRAINT fk_confirmations_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE cut_starts ADD CONSTRAINT fk_cut_starts_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE cut_stops ADD CONSTRAINT fk_cut_stops_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE finding_withdrawals ADD CONSTRAINT fk_finding_withdrawals_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE findings ADD CONSTRAINT fk_findings_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE finishes ADD CONSTRAINT fk_finishes_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE insert_events ADD CONSTRAINT fk_insert_events_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE jobs ADD CONSTRAINT fk_jobs_operators_received_by_id FOREIGN KEY (received_by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE limit_entries ADD CONSTRAINT fk_limit_entries_book_book_entry_id FOREIGN KEY (book_entry_id) REFERENCES book (id) ON DELETE RESTRICT;
ALTER TABLE limit_entries ADD CONSTRAINT fk_limit_entries_limit_entries_copied_from_id FOREIGN KEY (copied_from_id) REFERENCES limit_entries (id) ON DELETE RESTRICT;
ALTER TABLE limit_entries ADD CONSTRAINT fk_limit_entries_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE limit_entries ADD CONSTRAINT fk_limit_entries_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE limit_settlements ADD CONSTRAINT fk_limit_settlements_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE limit_settlements ADD CONSTRAINT fk_limit_settlements_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE mounts ADD CONSTRAINT fk_mounts_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE outcome_withdrawals ADD CONSTRAINT fk_outcome_withdrawals_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE outcome_withdrawals ADD CONSTRAINT fk_outcome_withdrawals_operators_signed_by_id FOREIGN KEY (signed_by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE outcome_withdrawals ADD CONSTRAINT fk_outcome_withdrawals_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE outcomes ADD CONSTRAINT fk_outcomes_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE outcomes ADD CONSTRAINT fk_outcomes_operators_signed_by_id FOREIGN KEY (signed_by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE outcomes ADD CONSTRAINT fk_outcomes_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE passes ADD CONSTRAINT fk_passes_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE plans ADD CONSTRAINT fk_plans_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE plans ADD CONSTRAINT fk_plans_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE prints ADD CONSTRAINT fk_prints_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE reading_flags ADD CONSTRAINT fk_reading_flags_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE readings ADD CONSTRAINT fk_readings_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE set_up_checks ADD CONSTRAINT fk_set_up_checks_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE set_up_decisions ADD CONSTRAINT fk_set_up_decisions_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE withdrawals ADD CONSTRAINT fk_withdrawals_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
ALTER TABLE withdrawals ADD CONSTRAINT fk_withdrawals_signatures_signature_id FOREIGN KEY (signature_id) REFERENCES signatures (id) ON DELETE RESTRICT;
ALTER TABLE zero_checks ADD CONSTRAINT fk_zero_checks_operators_by_id FOREIGN KEY (by_id) REFERENCES operators (id) ON DELETE RESTRICT;
alter table operators alter column role drop default;
update operators o set role = coalesce(e.role, 'operator') from earlier_people e where e.id = o.id;
insert into pins (operator_id, earlier, set_at) select id, decode(password_hash, 'base64'), now() from earlier_people where password_hash is not null;
select setval('job_number', greatest((select max(number) from jobs), 1000));
alter table confirmations add constraint ck_confirmations_release_is_inside_machine_to check (decision <> 'Release'
    or case kind when 'Rotor' then worst_mm - machine_to_mm else machine_to_mm - worst_mm end >= uncertainty_mm + allowance_mm) not valid;
-- Keys of the first version lay in clear.
delete from data_protection_keys;
insert into fact_counters (part_id, last) select part_id, max(number) from chain group by part_id;
alter table parts disable trigger user;
update parts f set number = c.number from chain c where c.fact_table = 'parts' and c.fact_id = f.id;
alter table parts enable trigger user;
alter table surfaces disable trigger user;
update surfaces f set number = c.number from chain c where c.fact_table = 'surfaces' and c.fact_id = f.id;
alter table surfaces enable trigger user;
alter table limit_entries disable trigger user;
update limit_entries f set number = c.number from chain c where c.fact_table = 'limit_entries' and c.fact_id = f.id;
alter table limit_entries enable trigger user;
alter table limit_settlements disable trigger user;
update limit_settlements f set number = c.number from chain c where c.fact_table = 'limit_settlements' and c.fact_id = f.id;
alter table limit_settlements enable trigger user;
alter table findings disable trigger user;
update findings f set number = c.number from chain c where c.fact_table = 'findings' and c.fact_id = f.id;
alter table findings enable trigger user;
alter table readings disable trigger user;
update readings f set number = c.number from chain c where c.fact_table = 'readings' and c.fact_id = f.id;
alter table readings enable trigger user;
alter table mounts disable trigger user;
update mounts f set number = c.number from chain c where c.fact_table = 'mounts' and c.fact_id = f.id;
alter table mounts enable trigger user;
alter table set_up_checks disable trigger user;
update set_up_checks f set number = c.number from chain c where c.fact_table = 'set_up_checks' and c.fact_id = f.id;
alter table set_up_checks enable trigger user;
alter table set_up_decisions disable trigger user;
update set_up_decisions f set number = c.number from chain c where c.fact_table = 'set_up_decisions' and c.fact_id = f.id;
alter table set_up_decisions enable trigger user;
alter table plans disable trigger user;
update plans f set number = c.number from chain c where c.fact_table = 'plans' and c.fact_id = f.id;
alter table plans enable trigger user;
alter table cut_starts disable trigger user;
update cut_starts f set number = c.number from chain c where c.fact_table = 'cut_starts' and c.fact_id = f.id;
alter table cut_starts enable trigger user;
alter table passes disable trigger user;
update passes f set number = c.number from chain c where c.fact_table = 'passes' and c.fact_id = f.id;
alter table passes enable trigger user;
alter table finishes disable trigger user;
update finishes f set number = c.number from chain c where c.fact_table = 'finishes' and c.fact_id = f.id;
alter table finishes enable trigger user;
alter table chatters disable trigger user;
update chatters f set number = c.number from chain c where c.fact_table = 'chatters' and c.fact_id = f.id;
alter table chatters enable trigger user;
alter table confirmations disable trigger user;
update confirmations f set number = c.number from chain c where c.fact_table = 'confirmations' and c.fact_id = f.id;
alter table confirmations enable trigger user;
alter table finding_withdrawals disable trigger user;
update finding_withdrawals f set number = c.number from chain c where c.fact_table = 'finding_withdrawals' and c.fact_id = f.id;
alter table finding_withdrawals enable trigger user;
alter table withdrawals disable trigger user;
update withdrawals f set number = c.number from chain c where c.fact_table = 'withdrawals' and c.fact_id = f.id;
alter table withdrawals enable trigger user;
alter table cut_stops disable trigger user;
update cut_stops f set number = c.number from chain c where c.fact_table = 'cut_stops' and c.fact_id = f.id;
alter table cut_stops enable trigger user;
alter table reading_flags disable trigger user;
update reading_flags f set number = c.number from chain c where c.fact_table = 'reading_flags' and c.fact_id = f.id;
alter table reading_flags enable trigger user;
alter table outcomes disable trigger user;
update outcomes f set number = c.number from chain c where c.fact_table = 'outcomes' and c.fact_id = f.id;
alter table outcomes enable trigger user;
alter table outcome_withdrawals disable trigger user;
update outcome_withdrawals f set number = c.number from chain c where c.fact_table = 'outcome_withdrawals' and c.fact_id = f.id;
alter table outcome_withdrawals enable trigger user;
alter table certificates disable trigger user;
update certificates f set number = c.number from chain c where c.fact_table = 'certificates' and c.fact_id = f.id;
alter table certificates enable trigger user;
alter table prints disable trigger user;
update prints f set number = c.number from chain c where c.fact_table = 'prints' and c.fact_id = f.id;
alter table prints enable trigger user;
