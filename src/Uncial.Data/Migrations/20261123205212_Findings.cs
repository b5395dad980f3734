using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Findings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "photos",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    content_type = table.Column<string>(type: "character varying(20)", maxLength: 20, nullable: false),
                    bytes = table.Column<byte[]>(type: "bytea", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_photos", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "findings",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    side = table.Column<string>(type: "text", nullable: false),
                    sectors = table.Column<int>(type: "integer", nullable: false),
                    depth_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    note = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: true),
                    photo_id = table.Column<int>(type: "integer", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_findings", x => x.id);
                    table.ForeignKey(
                        name: "fk_findings_photos_photo_id",
                        column: x => x.photo_id,
                        principalTable: "photos",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_findings_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_findings_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "finding_withdrawals",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    finding_id = table.Column<long>(type: "bigint", nullable: false),
                    reason = table.Column<string>(type: "character varying(200)", maxLength: 200, nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_finding_withdrawals", x => x.id);
                    table.ForeignKey(
                        name: "fk_finding_withdrawals_findings_finding_id",
                        column: x => x.finding_id,
                        principalTable: "findings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_finding_withdrawals_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_finding_withdrawals_by_id",
                table: "finding_withdrawals",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_finding_withdrawals_finding_id",
                table: "finding_withdrawals",
                column: "finding_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_findings_by_id",
                table: "findings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_findings_photo_id",
                table: "findings",
                column: "photo_id");

            migrationBuilder.CreateIndex(
                name: "ix_findings_surface_id",
                table: "findings",
                column: "surface_id");

            migrationBuilder.Sql(FactRules.Stays("findings"));
            migrationBuilder.Sql(FactRules.Stays("finding_withdrawals"));
            migrationBuilder.Sql(FactRules.Stays("photos"));
            migrationBuilder.Sql("create trigger findings_before_outcome before insert on findings for each row execute function refuse_after_outcome()");
            migrationBuilder.Sql(FactRules.Guard);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "finding_withdrawals");

            migrationBuilder.DropTable(
                name: "findings");

            migrationBuilder.DropTable(
                name: "photos");
        }
    }
}
