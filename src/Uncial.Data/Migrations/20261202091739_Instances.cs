using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Instances : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "fence",
                table: "readings",
                type: "bigint",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "gauge_sends",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    gauge_id = table.Column<int>(type: "integer", nullable: false),
                    line = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    typed = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    fence = table.Column<long>(type: "bigint", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    is_refused = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_gauge_sends", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "live_devices",
                columns: table => new
                {
                    kind = table.Column<string>(type: "character varying(10)", maxLength: 10, nullable: false),
                    device_id = table.Column<int>(type: "integer", nullable: false),
                    fence = table.Column<long>(type: "bigint", nullable: false),
                    instance = table.Column<Guid>(type: "uuid", nullable: false),
                    seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    says = table.Column<string>(type: "character varying(600)", maxLength: 600, nullable: true),
                    holder_screen_id = table.Column<int>(type: "integer", nullable: true),
                    holder_name = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: true),
                    holder_seen_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_live_devices", x => new { x.kind, x.device_id });
                });

            migrationBuilder.CreateIndex(
                name: "ix_gauge_sends_gauge_id_line",
                table: "gauge_sends",
                columns: new[] { "gauge_id", "line" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "gauge_sends");

            migrationBuilder.DropTable(
                name: "live_devices");

            migrationBuilder.DropColumn(
                name: "fence",
                table: "readings");
        }
    }
}
