using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class LimitBook : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "max_runout_mm",
                table: "surfaces",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "max_variation_mm",
                table: "surfaces",
                type: "numeric",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "book",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    vehicle = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    axle = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    in_hat = table.Column<bool>(type: "boolean", nullable: false),
                    nominal_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    machine_to_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    discard_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    max_runout_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    max_variation_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    max_out_of_round_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    across_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    band_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    unit = table.Column<string>(type: "text", nullable: false),
                    source = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    source_date = table.Column<DateOnly>(type: "date", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_book", x => x.id);
                    table.ForeignKey(
                        name: "fk_book_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "limit_settlements",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    entry_id = table.Column<long>(type: "bigint", nullable: false),
                    reason = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_limit_settlements", x => x.id);
                    table.ForeignKey(
                        name: "fk_limit_settlements_limit_entries_entry_id",
                        column: x => x.entry_id,
                        principalTable: "limit_entries",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_limit_settlements_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_limit_settlements_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_book_by_id",
                table: "book",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_book_vehicle_axle_kind_in_hat",
                table: "book",
                columns: new[] { "vehicle", "axle", "kind", "in_hat" },
                unique: true,
                filter: "ended_at is null");

            migrationBuilder.CreateIndex(
                name: "ix_limit_settlements_by_id",
                table: "limit_settlements",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_settlements_entry_id",
                table: "limit_settlements",
                column: "entry_id");

            migrationBuilder.CreateIndex(
                name: "ix_limit_settlements_surface_id",
                table: "limit_settlements",
                column: "surface_id");

            migrationBuilder.Sql(FactRules.Stays("limit_settlements"));
            migrationBuilder.Sql("create trigger limit_settlements_before_outcome before insert on limit_settlements for each row execute function refuse_after_outcome()");
            migrationBuilder.Sql(FactRules.Guard);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "book");

            migrationBuilder.DropTable(
                name: "limit_settlements");

            migrationBuilder.DropColumn(
                name: "max_runout_mm",
                table: "surfaces");

            migrationBuilder.DropColumn(
                name: "max_variation_mm",
                table: "surfaces");
        }
    }
}
