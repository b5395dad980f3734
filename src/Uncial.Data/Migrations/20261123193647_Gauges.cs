using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Gauges : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "correction_mm",
                table: "readings",
                type: "numeric",
                nullable: false,
                defaultValueSql: "0");

            migrationBuilder.AddColumn<int>(
                name: "gauge_id",
                table: "readings",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "key",
                table: "readings",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "note",
                table: "readings",
                type: "character varying(200)",
                maxLength: 200,
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "typed_at",
                table: "readings",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "zero_check_id",
                table: "readings",
                type: "bigint",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "gauges",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    shop_id = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    unit = table.Column<string>(type: "text", nullable: true),
                    resolution_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    certificate_uncertainty_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    permissible_error_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    next_check = table.Column<DateOnly>(type: "date", nullable: true),
                    standard_size_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    standard_uncertainty_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    zero_tolerance_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    starts_mm = table.Column<decimal[]>(type: "numeric[]", nullable: false),
                    reach_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    address = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: true),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    turn = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_gauges", x => x.id);
                    table.ForeignKey(
                        name: "fk_gauges_shops_shop_id",
                        column: x => x.shop_id,
                        principalTable: "shops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "zero_checks",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    gauge_id = table.Column<int>(type: "integer", nullable: false),
                    nominal_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    shown_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    typed = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    tolerance_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    passed = table.Column<bool>(type: "boolean", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_zero_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_zero_checks_gauges_gauge_id",
                        column: x => x.gauge_id,
                        principalTable: "gauges",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_zero_checks_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "reading_flags",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    reading_id = table.Column<long>(type: "bigint", nullable: false),
                    zero_check_id = table.Column<long>(type: "bigint", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_reading_flags", x => x.id);
                    table.ForeignKey(
                        name: "fk_reading_flags_readings_reading_id",
                        column: x => x.reading_id,
                        principalTable: "readings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_reading_flags_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_reading_flags_zero_checks_zero_check_id",
                        column: x => x.zero_check_id,
                        principalTable: "zero_checks",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_readings_gauge_id",
                table: "readings",
                column: "gauge_id");

            migrationBuilder.CreateIndex(
                name: "ix_readings_key",
                table: "readings",
                column: "key",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_readings_zero_check_id",
                table: "readings",
                column: "zero_check_id");

            migrationBuilder.CreateIndex(
                name: "ix_gauges_shop_id",
                table: "gauges",
                column: "shop_id");

            migrationBuilder.CreateIndex(
                name: "ix_reading_flags_by_id",
                table: "reading_flags",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_reading_flags_reading_id",
                table: "reading_flags",
                column: "reading_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_reading_flags_zero_check_id",
                table: "reading_flags",
                column: "zero_check_id");

            migrationBuilder.CreateIndex(
                name: "ix_zero_checks_by_id",
                table: "zero_checks",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_zero_checks_gauge_id_at",
                table: "zero_checks",
                columns: new[] { "gauge_id", "at" });

            migrationBuilder.AddForeignKey(
                name: "fk_readings_gauges_gauge_id",
                table: "readings",
                column: "gauge_id",
                principalTable: "gauges",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_readings_zero_checks_zero_check_id",
                table: "readings",
                column: "zero_check_id",
                principalTable: "zero_checks",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            // The two gauges that a shop had so far go into the book; what was given as the doubt of a reading is taken as their certificate.
            foreach (var (column, kind) in new[] { ("micrometer", "Micrometer"), ("drum_gauge", "DrumGauge") })
                migrationBuilder.Sql($"""
                    insert into gauges (shop_id, name, kind, resolution_mm, certificate_uncertainty_mm, starts_mm, turn)
                    select id, {column}->>'name', '{kind}', ({column}->>'resolution')::numeric, ({column}->>'uncertainty')::numeric, array[]::numeric[], 0 from shops
                    """);
            migrationBuilder.DropColumn(name: "drum_gauge", table: "shops");
            migrationBuilder.DropColumn(name: "micrometer", table: "shops");
            migrationBuilder.Sql(FactRules.Stays("zero_checks"));
            migrationBuilder.Sql(FactRules.Stays("reading_flags"));
            migrationBuilder.Sql(FactRules.Guard);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_readings_gauges_gauge_id",
                table: "readings");

            migrationBuilder.DropForeignKey(
                name: "fk_readings_zero_checks_zero_check_id",
                table: "readings");

            migrationBuilder.DropTable(
                name: "reading_flags");

            migrationBuilder.DropTable(
                name: "zero_checks");

            migrationBuilder.DropTable(
                name: "gauges");

            migrationBuilder.DropIndex(
                name: "ix_readings_gauge_id",
                table: "readings");

            migrationBuilder.DropIndex(
                name: "ix_readings_key",
                table: "readings");

            migrationBuilder.DropIndex(
                name: "ix_readings_zero_check_id",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "correction_mm",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "gauge_id",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "key",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "note",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "typed_at",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "zero_check_id",
                table: "readings");

            migrationBuilder.AddColumn<string>(
                name: "drum_gauge",
                table: "shops",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "micrometer",
                table: "shops",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");
        }
    }
}
