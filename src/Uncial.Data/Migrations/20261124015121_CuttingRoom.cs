using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class CuttingRoom : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "grams",
                table: "passes",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);

            migrationBuilder.AddColumn<string>(
                name: "noise",
                table: "passes",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "address",
                table: "lathes",
                type: "character varying(60)",
                maxLength: 60,
                nullable: true);

            migrationBuilder.CreateTable(
                name: "bins_emptied",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    grams = table.Column<decimal>(type: "numeric", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_bins_emptied", x => x.id);
                    table.ForeignKey(
                        name: "fk_bins_emptied_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "chatters",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    cuts = table.Column<int>(type: "integer", nullable: false),
                    sign = table.Column<string>(type: "text", nullable: false),
                    remedy = table.Column<string>(type: "text", nullable: false),
                    helped = table.Column<bool>(type: "boolean", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_chatters", x => x.id);
                    table.ForeignKey(
                        name: "fk_chatters_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_chatters_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_chatters_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "cut_drafts",
                columns: table => new
                {
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    of = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    document = table.Column<string>(type: "jsonb", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_cut_drafts", x => x.surface_id);
                    table.ForeignKey(
                        name: "fk_cut_drafts_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "cut_starts",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    plan_id = table.Column<long>(type: "bigint", nullable: false),
                    index = table.Column<int>(type: "integer", nullable: false),
                    attempt = table.Column<int>(type: "integer", nullable: false),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    planned_minutes = table.Column<decimal>(type: "numeric", nullable: false),
                    seconds = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_cut_starts", x => x.id);
                    table.ForeignKey(
                        name: "fk_cut_starts_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_cut_starts_plans_plan_id",
                        column: x => x.plan_id,
                        principalTable: "plans",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_cut_starts_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_cut_starts_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "finishes",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    cuts = table.Column<int>(type: "integer", nullable: false),
                    steps = table.Column<string[]>(type: "text[]", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_finishes", x => x.id);
                    table.ForeignKey(
                        name: "fk_finishes_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_finishes_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "techniques",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    shop_id = table.Column<int>(type: "integer", nullable: false),
                    spec = table.Column<string>(type: "jsonb", nullable: false),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    turn = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_techniques", x => x.id);
                    table.ForeignKey(
                        name: "fk_techniques_shops_shop_id",
                        column: x => x.shop_id,
                        principalTable: "shops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "cut_stops",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    start_id = table.Column<long>(type: "bigint", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_cut_stops", x => x.id);
                    table.ForeignKey(
                        name: "fk_cut_stops_cut_starts_start_id",
                        column: x => x.start_id,
                        principalTable: "cut_starts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_cut_stops_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_passes_at",
                table: "passes",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_bins_emptied_by_id",
                table: "bins_emptied",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_chatters_by_id",
                table: "chatters",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_chatters_lathe_id",
                table: "chatters",
                column: "lathe_id");

            migrationBuilder.CreateIndex(
                name: "ix_chatters_surface_id",
                table: "chatters",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_cut_starts_by_id",
                table: "cut_starts",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_cut_starts_lathe_id_id",
                table: "cut_starts",
                columns: new[] { "lathe_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_cut_starts_plan_id_index_attempt",
                table: "cut_starts",
                columns: new[] { "plan_id", "index", "attempt" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_cut_starts_surface_id",
                table: "cut_starts",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_cut_stops_by_id",
                table: "cut_stops",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_cut_stops_start_id",
                table: "cut_stops",
                column: "start_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_finishes_by_id",
                table: "finishes",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_finishes_surface_id",
                table: "finishes",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_techniques_shop_id",
                table: "techniques",
                column: "shop_id");

            foreach (var table in new[] { "cut_starts", "finishes", "chatters" })
            {
                migrationBuilder.Sql(FactRules.Stays(table));
                migrationBuilder.Sql($"create trigger {table}_before_outcome before insert on {table} for each row execute function refuse_after_outcome()");
            }
            foreach (var table in new[] { "cut_stops", "bins_emptied" }) migrationBuilder.Sql(FactRules.Stays(table));
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "bins_emptied");

            migrationBuilder.DropTable(
                name: "chatters");

            migrationBuilder.DropTable(
                name: "cut_drafts");

            migrationBuilder.DropTable(
                name: "cut_stops");

            migrationBuilder.DropTable(
                name: "finishes");

            migrationBuilder.DropTable(
                name: "techniques");

            migrationBuilder.DropTable(
                name: "cut_starts");

            migrationBuilder.DropIndex(
                name: "ix_passes_at",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "grams",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "noise",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "address",
                table: "lathes");
        }
    }
}
