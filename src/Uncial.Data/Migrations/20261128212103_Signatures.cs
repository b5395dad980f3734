using System;
using System.Linq;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Signatures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Roles and PINs of the first version, kept until their new places are there.
            migrationBuilder.Sql("""
                create temporary table earlier_people on commit drop as
                    select o.id, o.user_name, o.password_hash, (select r.name from operator_roles ur join roles r on r.id = ur.role_id where ur.user_id = o.id
                        order by array_position(array['owner', 'lead', 'operator'], r.name::text) limit 1) as role from operators o;
                """);

            migrationBuilder.DropForeignKey(
                name: "fk_bins_emptied_users_by_id",
                table: "bins_emptied");

            migrationBuilder.DropForeignKey(
                name: "fk_book_users_by_id",
                table: "book");

            migrationBuilder.DropForeignKey(
                name: "fk_certificates_users_by_id",
                table: "certificates");

            migrationBuilder.DropForeignKey(
                name: "fk_chatters_users_by_id",
                table: "chatters");

            migrationBuilder.DropForeignKey(
                name: "fk_confirmations_users_by_id",
                table: "confirmations");

            migrationBuilder.DropForeignKey(
                name: "fk_cut_starts_users_by_id",
                table: "cut_starts");

            migrationBuilder.DropForeignKey(
                name: "fk_cut_stops_users_by_id",
                table: "cut_stops");

            migrationBuilder.DropForeignKey(
                name: "fk_findings_users_by_id",
                table: "findings");

            migrationBuilder.DropForeignKey(
                name: "fk_finishes_users_by_id",
                table: "finishes");

            migrationBuilder.DropForeignKey(
                name: "fk_insert_events_users_by_id",
                table: "insert_events");

            migrationBuilder.DropForeignKey(
                name: "fk_jobs_users_received_by_id",
                table: "jobs");

            migrationBuilder.DropForeignKey(
                name: "fk_limit_entries_users_by_id",
                table: "limit_entries");

            migrationBuilder.DropForeignKey(
                name: "fk_limit_settlements_users_by_id",
                table: "limit_settlements");

            migrationBuilder.DropForeignKey(
                name: "fk_mounts_users_by_id",
                table: "mounts");

            migrationBuilder.DropForeignKey(
                name: "fk_outcome_withdrawals_users_by_id",
                table: "outcome_withdrawals");

            migrationBuilder.DropForeignKey(
                name: "fk_outcome_withdrawals_users_signed_by_id",
                table: "outcome_withdrawals");

            migrationBuilder.DropForeignKey(
                name: "fk_outcomes_users_by_id",
                table: "outcomes");

            migrationBuilder.DropForeignKey(
                name: "fk_outcomes_users_signed_by_id",
                table: "outcomes");

            migrationBuilder.DropForeignKey(
                name: "fk_passes_users_by_id",
                table: "passes");

            migrationBuilder.DropForeignKey(
                name: "fk_plans_users_by_id",
                table: "plans");

            migrationBuilder.DropForeignKey(
                name: "fk_prints_users_by_id",
                table: "prints");

            migrationBuilder.DropForeignKey(
                name: "fk_reading_flags_users_by_id",
                table: "reading_flags");

            migrationBuilder.DropForeignKey(
                name: "fk_readings_users_by_id",
                table: "readings");

            migrationBuilder.DropForeignKey(
                name: "fk_set_up_checks_users_by_id",
                table: "set_up_checks");

            migrationBuilder.DropForeignKey(
                name: "fk_set_up_decisions_users_by_id",
                table: "set_up_decisions");

            migrationBuilder.DropForeignKey(
                name: "fk_withdrawals_users_by_id",
                table: "withdrawals");

            migrationBuilder.DropForeignKey(
                name: "fk_zero_checks_users_by_id",
                table: "zero_checks");

            migrationBuilder.DropTable(
                name: "operator_claims");

            migrationBuilder.DropTable(
                name: "operator_logins");

            migrationBuilder.DropTable(
                name: "operator_roles");

            migrationBuilder.DropTable(
                name: "operator_tokens");

            migrationBuilder.DropTable(
                name: "role_claims");

            migrationBuilder.DropTable(
                name: "roles");

            migrationBuilder.DropIndex(
                name: "ix_zero_checks_gauge_id_at",
                table: "zero_checks");

            migrationBuilder.DropIndex(
                name: "ix_readings_gauge_id",
                table: "readings");

            migrationBuilder.DropIndex(
                name: "EmailIndex",
                table: "operators");

            migrationBuilder.DropIndex(
                name: "UserNameIndex",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "access_failed_count",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "concurrency_stamp",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "email",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "email_confirmed",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "lockout_enabled",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "normalized_email",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "normalized_user_name",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "password_hash",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "phone_number",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "phone_number_confirmed",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "security_stamp",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "two_factor_enabled",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "lockout_end",
                table: "operators");

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "disabled_at",
                table: "operators",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,")
                .Annotation("Npgsql:PostgresExtension:pgcrypto", ",,")
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateSequence<int>(
                name: "job_number",
                startValue: 1001L);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "withdrawals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "withdrawals",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "surfaces",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "rules_id",
                table: "shops",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "set_up_decisions",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "set_up_checks",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "after_check_id",
                table: "readings",
                type: "bigint",
                nullable: true,
                defaultValueSql: "null");

            migrationBuilder.AddColumn<string>(
                name: "line",
                table: "readings",
                type: "character varying(60)",
                maxLength: 60,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "readings",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "reading_flags",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "prints",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "plans",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "plans",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "passes",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "parts",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "outcomes",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "outcomes",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "outcome_withdrawals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "outcome_withdrawals",
                type: "bigint",
                nullable: true);

            migrationBuilder.AlterColumn<string>(
                name: "user_name",
                table: "operators",
                type: "character varying(40)",
                maxLength: 40,
                nullable: false,
                defaultValue: "",
                oldClrType: typeof(string),
                oldType: "character varying(256)",
                oldMaxLength: 256,
                oldNullable: true);

            migrationBuilder.AddColumn<string>(
                name: "role",
                table: "operators",
                type: "character varying(20)",
                maxLength: 20,
                nullable: false,
                defaultValue: "operator");

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "mounts",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "limit_settlements",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "limit_settlements",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "book_entry_id",
                table: "limit_entries",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "copied_from_id",
                table: "limit_entries",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "limit_entries",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "rules_id",
                table: "limit_entries",
                type: "bigint",
                nullable: true,
                defaultValueSql: "null");

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "limit_entries",
                type: "bigint",
                nullable: true);

            migrationBuilder.AlterColumn<int>(
                name: "number",
                table: "jobs",
                type: "integer",
                nullable: false,
                defaultValueSql: "nextval('job_number')",
                oldClrType: typeof(int),
                oldType: "integer");

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "finishes",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "findings",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "finding_withdrawals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "signature_id",
                table: "finding_withdrawals",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "cut_stops",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "cut_starts",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "confirmations",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<long>(
                name: "rules_id",
                table: "confirmations",
                type: "bigint",
                nullable: true,
                defaultValueSql: "null");

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "chatters",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "number",
                table: "certificates",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "fact_counters",
                columns: table => new
                {
                    part_id = table.Column<int>(type: "integer", nullable: false),
                    last = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_fact_counters", x => x.part_id);
                });

            migrationBuilder.CreateTable(
                name: "people_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    act = table.Column<string>(type: "text", nullable: false),
                    operator_id = table.Column<int>(type: "integer", nullable: true),
                    screen_id = table.Column<int>(type: "integer", nullable: true),
                    detail = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_people_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_people_events_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "pin_delays",
                columns: table => new
                {
                    operator_id = table.Column<int>(type: "integer", nullable: false),
                    place = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    misses = table.Column<int>(type: "integer", nullable: false),
                    last_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pin_delays", x => new { x.operator_id, x.place });
                });

            migrationBuilder.CreateTable(
                name: "pin_tries",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    operator_id = table.Column<int>(type: "integer", nullable: false),
                    screen_id = table.Column<int>(type: "integer", nullable: true),
                    address = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: true),
                    commitment = table.Column<byte[]>(type: "bytea", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    transaction = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    right = table.Column<bool>(type: "boolean", nullable: true),
                    purpose = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pin_tries", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "pins",
                columns: table => new
                {
                    operator_id = table.Column<int>(type: "integer", nullable: false),
                    hash = table.Column<string>(type: "character varying(100)", maxLength: 100, nullable: true),
                    earlier = table.Column<byte[]>(type: "bytea", nullable: true),
                    set_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_pins", x => x.operator_id);
                    table.ForeignKey(
                        name: "fk_pins_operators_operator_id",
                        column: x => x.operator_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "screens",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    enrolled_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    enrolled_by_id = table.Column<int>(type: "integer", nullable: true),
                    address = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: true),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_screens", x => x.id);
                    table.ForeignKey(
                        name: "fk_screens_operators_enrolled_by_id",
                        column: x => x.enrolled_by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "shop_chain",
                columns: table => new
                {
                    number = table.Column<long>(type: "bigint", nullable: false),
                    ref_table = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    ref_id = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    op = table.Column<string>(type: "character varying(1)", maxLength: 1, nullable: false),
                    row_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_shop_chain", x => x.number);
                });

            migrationBuilder.CreateTable(
                name: "signatures",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    part_id = table.Column<int>(type: "integer", nullable: true),
                    signed_for = table.Column<string>(type: "text", nullable: false),
                    subject = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    signed_by_id = table.Column<int>(type: "integer", nullable: false),
                    role = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    pin_checked = table.Column<bool>(type: "boolean", nullable: false),
                    screen_id = table.Column<int>(type: "integer", nullable: true),
                    transaction = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false, defaultValue: ""),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false, defaultValue: 0)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_signatures", x => x.id);
                    table.ForeignKey(
                        name: "fk_signatures_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_signatures_operators_signed_by_id",
                        column: x => x.signed_by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_signatures_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "sessions",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    operator_id = table.Column<int>(type: "integer", nullable: false),
                    screen_id = table.Column<int>(type: "integer", nullable: false),
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    ended_by = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_sessions", x => x.id);
                    table.ForeignKey(
                        name: "fk_sessions_operators_operator_id",
                        column: x => x.operator_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_sessions_screens_screen_id",
                        column: x => x.screen_id,
                        principalTable: "screens",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "rule_changes",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    before = table.Column<string>(type: "jsonb", nullable: true),
                    after = table.Column<string>(type: "jsonb", nullable: false),
                    laxer = table.Column<bool>(type: "boolean", nullable: false, defaultValue: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    signature_id = table.Column<long>(type: "bigint", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rule_changes", x => x.id);
                    table.ForeignKey(
                        name: "fk_rule_changes_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_rule_changes_signatures_signature_id",
                        column: x => x.signature_id,
                        principalTable: "signatures",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_zero_checks_gauge_id_id",
                table: "zero_checks",
                columns: new[] { "gauge_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_withdrawals_signature_id",
                table: "withdrawals",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_readings_gauge_id_line",
                table: "readings",
                columns: new[] { "gauge_id", "line" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_plans_signature_id",
                table: "plans",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_signature_id",
                table: "outcomes",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcome_withdrawals_signature_id",
                table: "outcome_withdrawals",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_operators_user_name",
                table: "operators",
                column: "user_name",
                unique: true);

            migrationBuilder.AddCheckConstraint(
                name: "ck_operators_role",
                table: "operators",
                sql: "role in ('operator', 'lead', 'owner')");

            migrationBuilder.CreateIndex(
                name: "ix_limit_settlements_signature_id",
                table: "limit_settlements",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_limit_entries_book_entry_id",
                table: "limit_entries",
                column: "book_entry_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_entries_copied_from_id",
                table: "limit_entries",
                column: "copied_from_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_entries_signature_id",
                table: "limit_entries",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_finding_withdrawals_signature_id",
                table: "finding_withdrawals",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_people_events_by_id",
                table: "people_events",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_pin_tries_operator_id_at",
                table: "pin_tries",
                columns: new[] { "operator_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_rule_changes_by_id",
                table: "rule_changes",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_rule_changes_signature_id",
                table: "rule_changes",
                column: "signature_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_screens_enrolled_by_id",
                table: "screens",
                column: "enrolled_by_id");

            migrationBuilder.CreateIndex(
                name: "ix_screens_token_hash",
                table: "screens",
                column: "token_hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_sessions_operator_id",
                table: "sessions",
                column: "operator_id");

            migrationBuilder.CreateIndex(
                name: "ix_sessions_screen_id",
                table: "sessions",
                column: "screen_id");

            migrationBuilder.CreateIndex(
                name: "ix_sessions_token_hash",
                table: "sessions",
                column: "token_hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_shop_chain_at",
                table: "shop_chain",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_shop_chain_ref_table_ref_id_number",
                table: "shop_chain",
                columns: new[] { "ref_table", "ref_id", "number" });

            migrationBuilder.CreateIndex(
                name: "ix_signatures_by_id",
                table: "signatures",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_signatures_part_id",
                table: "signatures",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_signatures_signed_by_id",
                table: "signatures",
                column: "signed_by_id");

            migrationBuilder.AddForeignKey(
                name: "fk_bins_emptied_operators_by_id",
                table: "bins_emptied",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_book_operators_by_id",
                table: "book",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_certificates_operators_by_id",
                table: "certificates",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_chatters_operators_by_id",
                table: "chatters",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_confirmations_operators_by_id",
                table: "confirmations",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_cut_starts_operators_by_id",
                table: "cut_starts",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_cut_stops_operators_by_id",
                table: "cut_stops",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_finding_withdrawals_signatures_signature_id",
                table: "finding_withdrawals",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_findings_operators_by_id",
                table: "findings",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_finishes_operators_by_id",
                table: "finishes",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_insert_events_operators_by_id",
                table: "insert_events",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_jobs_operators_received_by_id",
                table: "jobs",
                column: "received_by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_entries_book_book_entry_id",
                table: "limit_entries",
                column: "book_entry_id",
                principalTable: "book",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_entries_limit_entries_copied_from_id",
                table: "limit_entries",
                column: "copied_from_id",
                principalTable: "limit_entries",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_entries_operators_by_id",
                table: "limit_entries",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_entries_signatures_signature_id",
                table: "limit_entries",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_settlements_operators_by_id",
                table: "limit_settlements",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_limit_settlements_signatures_signature_id",
                table: "limit_settlements",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_mounts_operators_by_id",
                table: "mounts",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcome_withdrawals_operators_by_id",
                table: "outcome_withdrawals",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcome_withdrawals_operators_signed_by_id",
                table: "outcome_withdrawals",
                column: "signed_by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcome_withdrawals_signatures_signature_id",
                table: "outcome_withdrawals",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcomes_operators_by_id",
                table: "outcomes",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcomes_operators_signed_by_id",
                table: "outcomes",
                column: "signed_by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_outcomes_signatures_signature_id",
                table: "outcomes",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_passes_operators_by_id",
                table: "passes",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_plans_operators_by_id",
                table: "plans",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_plans_signatures_signature_id",
                table: "plans",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_prints_operators_by_id",
                table: "prints",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_reading_flags_operators_by_id",
                table: "reading_flags",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_readings_operators_by_id",
                table: "readings",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_set_up_checks_operators_by_id",
                table: "set_up_checks",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_set_up_decisions_operators_by_id",
                table: "set_up_decisions",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_withdrawals_operators_by_id",
                table: "withdrawals",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_withdrawals_signatures_signature_id",
                table: "withdrawals",
                column: "signature_id",
                principalTable: "signatures",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_zero_checks_operators_by_id",
                table: "zero_checks",
                column: "by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.Sql("""
                alter table operators alter column role drop default;
                update operators o set role = coalesce(e.role, 'operator') from earlier_people e where e.id = o.id;
                insert into pins (operator_id, earlier, set_at) select id, decode(password_hash, 'base64'), now() from earlier_people where password_hash is not null;
                select setval('job_number', greatest((select max(number) from jobs), 1000));
                alter table confirmations add constraint ck_confirmations_release_is_inside_machine_to check (decision <> 'Release'
                    or case kind when 'Rotor' then worst_mm - machine_to_mm else machine_to_mm - worst_mm end >= uncertainty_mm + allowance_mm) not valid;
                -- Keys of the first version lay in clear.
                delete from data_protection_keys;
                insert into fact_counters (part_id, last) select part_id, max(number) from chain group by part_id;
                """);
            // The number of a fact is that of its link.
            foreach (var table in GuardedTables.OfParts.Where(t => t.Name != "signatures"))
                migrationBuilder.Sql($"""
                    alter table {table.Name} disable trigger user;
                    update {table.Name} f set number = c.number from chain c where c.fact_table = '{table.Name}' and c.fact_id = f.id;
                    alter table {table.Name} enable trigger user;
                    """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("Signatures and numbers are not taken away again: restore the backup that was made before.");
    }
}
