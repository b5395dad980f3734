using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class PacesAndTime : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "ix_mounts_by_id",
                table: "mounts");

            migrationBuilder.AddColumn<string>(
                name: "date_style",
                table: "shops",
                type: "character varying(20)",
                maxLength: 20,
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "time_zone",
                table: "shops",
                type: "character varying(60)",
                maxLength: 60,
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "experienced_since",
                table: "operators",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<string[]>(
                name: "looked_at",
                table: "cut_starts",
                type: "text[]",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "eye_checks",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_eye_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_eye_checks_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_eye_checks_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_mounts_by_id_lathe_id",
                table: "mounts",
                columns: new[] { "by_id", "lathe_id" });

            migrationBuilder.CreateIndex(
                name: "ix_eye_checks_by_id_lathe_id_at",
                table: "eye_checks",
                columns: new[] { "by_id", "lathe_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_eye_checks_lathe_id",
                table: "eye_checks",
                column: "lathe_id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "eye_checks");

            migrationBuilder.DropIndex(
                name: "ix_mounts_by_id_lathe_id",
                table: "mounts");

            migrationBuilder.DropColumn(
                name: "date_style",
                table: "shops");

            migrationBuilder.DropColumn(
                name: "time_zone",
                table: "shops");

            migrationBuilder.DropColumn(
                name: "experienced_since",
                table: "operators");

            migrationBuilder.DropColumn(
                name: "looked_at",
                table: "cut_starts");

            migrationBuilder.CreateIndex(
                name: "ix_mounts_by_id",
                table: "mounts",
                column: "by_id");
        }
    }
}
