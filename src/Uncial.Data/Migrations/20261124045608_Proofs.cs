using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Proofs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_parts_tag",
                table: "parts");

            migrationBuilder.DropIndex(
                name: "ix_outcomes_part_id",
                table: "outcomes");

            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<bool>(
                name: "from_file",
                table: "readings",
                type: "boolean",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "visit",
                table: "parts",
                type: "integer",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<string>(
                name: "cause",
                table: "outcomes",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "place",
                table: "outcomes",
                type: "character varying(120)",
                maxLength: 120,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "preservative",
                table: "outcomes",
                type: "character varying(120)",
                maxLength: 120,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "signed_by_id",
                table: "outcomes",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "reason",
                table: "confirmations",
                type: "character varying(300)",
                maxLength: 300,
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "taper_mm",
                table: "confirmations",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "variation_mm",
                table: "confirmations",
                type: "numeric",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "certificates",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    outcome_id = table.Column<long>(type: "bigint", nullable: false),
                    document = table.Column<string>(type: "text", nullable: false),
                    hash = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_certificates", x => x.id);
                    table.ForeignKey(
                        name: "fk_certificates_outcomes_outcome_id",
                        column: x => x.outcome_id,
                        principalTable: "outcomes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_certificates_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "chain",
                columns: table => new
                {
                    part_id = table.Column<int>(type: "integer", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    fact_table = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    fact_id = table.Column<long>(type: "bigint", nullable: false),
                    hash = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_chain", x => new { x.part_id, x.number });
                    table.ForeignKey(
                        name: "fk_chain_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "log_lines",
                columns: table => new
                {
                    part_id = table.Column<int>(type: "integer", nullable: false),
                    job_number = table.Column<int>(type: "integer", nullable: false),
                    received_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    search = table.Column<string>(type: "text", nullable: false),
                    people = table.Column<int[]>(type: "integer[]", nullable: false),
                    outcome = table.Column<string>(type: "text", nullable: true),
                    out_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log_lines", x => x.part_id);
                    table.ForeignKey(
                        name: "fk_log_lines_parts_part_id",
                        column: x => x.part_id,
                        principalTable: "parts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "outcome_withdrawals",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    outcome_id = table.Column<long>(type: "bigint", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: false),
                    had_left = table.Column<bool>(type: "boolean", nullable: false),
                    signed_by_id = table.Column<int>(type: "integer", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_outcome_withdrawals", x => x.id);
                    table.ForeignKey(
                        name: "fk_outcome_withdrawals_outcomes_outcome_id",
                        column: x => x.outcome_id,
                        principalTable: "outcomes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_outcome_withdrawals_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_outcome_withdrawals_users_signed_by_id",
                        column: x => x.signed_by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "prints",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    certificate_id = table.Column<long>(type: "bigint", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_prints", x => x.id);
                    table.ForeignKey(
                        name: "fk_prints_certificates_certificate_id",
                        column: x => x.certificate_id,
                        principalTable: "certificates",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_prints_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_parts_tag_visit",
                table: "parts",
                columns: new[] { "tag", "visit" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_part_id",
                table: "outcomes",
                column: "part_id");

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_signed_by_id",
                table: "outcomes",
                column: "signed_by_id");

            migrationBuilder.CreateIndex(
                name: "ix_certificates_by_id",
                table: "certificates",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_certificates_hash",
                table: "certificates",
                column: "hash");

            migrationBuilder.CreateIndex(
                name: "ix_certificates_outcome_id",
                table: "certificates",
                column: "outcome_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_job_number_part_id",
                table: "log_lines",
                columns: new[] { "job_number", "part_id" });

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_out_at",
                table: "log_lines",
                column: "out_at");

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_outcome_job_number_part_id",
                table: "log_lines",
                columns: new[] { "outcome", "job_number", "part_id" });

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_people",
                table: "log_lines",
                column: "people")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_received_at",
                table: "log_lines",
                column: "received_at");

            migrationBuilder.CreateIndex(
                name: "ix_log_lines_search",
                table: "log_lines",
                column: "search")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            migrationBuilder.CreateIndex(
                name: "ix_outcome_withdrawals_by_id",
                table: "outcome_withdrawals",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_outcome_withdrawals_outcome_id",
                table: "outcome_withdrawals",
                column: "outcome_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcome_withdrawals_signed_by_id",
                table: "outcome_withdrawals",
                column: "signed_by_id");

            migrationBuilder.CreateIndex(
                name: "ix_prints_by_id",
                table: "prints",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_prints_certificate_id",
                table: "prints",
                column: "certificate_id");

            migrationBuilder.AddForeignKey(
                name: "fk_outcomes_users_signed_by_id",
                table: "outcomes",
                column: "signed_by_id",
                principalTable: "operators",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            // What the database keeps by itself: the rules, the chain of every part, the lines of the logbook.
            migrationBuilder.Sql(FactRules.AfterOutcome);
            migrationBuilder.Sql(FactRules.Guard);
            migrationBuilder.Sql("create trigger outcome_withdrawals_guard before insert on outcome_withdrawals for each row execute function guard_withdrawal()");
            migrationBuilder.Sql(ChainRules.Functions);
            migrationBuilder.Sql(ChainRules.LogAnew);
            migrationBuilder.Sql(ChainRules.Backfill);
            foreach (var (table, part) in ChainRules.Facts) migrationBuilder.Sql(ChainRules.Chains(table, part));
            foreach (var table in new[] { "outcome_withdrawals", "certificates", "prints", "chain" }) migrationBuilder.Sql(FactRules.Stays(table));
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            foreach (var (table, _) in ChainRules.Facts) migrationBuilder.Sql($"drop trigger {table}_chain on {table}; drop function {table}_chained;");
            migrationBuilder.Sql("drop trigger parts_logged on parts; drop trigger jobs_logged on jobs; drop trigger parts_name on parts; drop trigger surfaces_name on surfaces;");
            migrationBuilder.Sql("drop function log_part; drop function log_job; drop function log_refresh; drop function refuse_new_name; drop function chain_add; drop function fact_text;");

            migrationBuilder.DropForeignKey(
                name: "fk_outcomes_users_signed_by_id",
                table: "outcomes");

            migrationBuilder.DropTable(
                name: "chain");

            migrationBuilder.DropTable(
                name: "log_lines");

            migrationBuilder.DropTable(
                name: "outcome_withdrawals");

            migrationBuilder.Sql("drop function guard_withdrawal");

            migrationBuilder.DropTable(
                name: "prints");

            migrationBuilder.DropTable(
                name: "certificates");

            migrationBuilder.DropIndex(
                name: "ix_parts_tag_visit",
                table: "parts");

            migrationBuilder.DropIndex(
                name: "ix_outcomes_part_id",
                table: "outcomes");

            migrationBuilder.DropIndex(
                name: "ix_outcomes_signed_by_id",
                table: "outcomes");

            migrationBuilder.DropColumn(
                name: "from_file",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "visit",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "cause",
                table: "outcomes");

            migrationBuilder.DropColumn(
                name: "place",
                table: "outcomes");

            migrationBuilder.DropColumn(
                name: "preservative",
                table: "outcomes");

            migrationBuilder.DropColumn(
                name: "signed_by_id",
                table: "outcomes");

            migrationBuilder.DropColumn(
                name: "reason",
                table: "confirmations");

            migrationBuilder.DropColumn(
                name: "taper_mm",
                table: "confirmations");

            migrationBuilder.DropColumn(
                name: "variation_mm",
                table: "confirmations");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.CreateIndex(
                name: "ix_parts_tag",
                table: "parts",
                column: "tag",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_outcomes_part_id",
                table: "outcomes",
                column: "part_id",
                unique: true);
        }
    }
}
