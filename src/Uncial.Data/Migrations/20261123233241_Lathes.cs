using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Lathes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "lathe_id",
                table: "plans",
                type: "integer",
                nullable: true,
                defaultValue: 1);

            migrationBuilder.AddColumn<int>(
                name: "lathe_id",
                table: "passes",
                type: "integer",
                nullable: true,
                defaultValue: 1);

            migrationBuilder.AddColumn<decimal>(
                name: "metres",
                table: "passes",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);

            migrationBuilder.AddColumn<string>(
                name: "shape",
                table: "parts",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "lathe_id",
                table: "confirmations",
                type: "integer",
                nullable: true,
                defaultValue: 1);

            migrationBuilder.CreateTable(
                name: "adapters",
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
                    table.PrimaryKey("pk_adapters", x => x.id);
                    table.ForeignKey(
                        name: "fk_adapters_shops_shop_id",
                        column: x => x.shop_id,
                        principalTable: "shops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "lathes",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    shop_id = table.Column<int>(type: "integer", nullable: false),
                    profile = table.Column<string>(type: "jsonb", nullable: false),
                    retired_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    turn = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lathes", x => x.id);
                    table.ForeignKey(
                        name: "fk_lathes_shops_shop_id",
                        column: x => x.shop_id,
                        principalTable: "shops",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "insert_events",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    holder = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    edge = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_insert_events", x => x.id);
                    table.ForeignKey(
                        name: "fk_insert_events_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_insert_events_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "mounts",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    cuts = table.Column<int>(type: "integer", nullable: false),
                    way = table.Column<string>(type: "text", nullable: false),
                    centring = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    document = table.Column<string>(type: "jsonb", nullable: false),
                    damped = table.Column<bool>(type: "boolean", nullable: false),
                    found = table.Column<string>(type: "text", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_mounts", x => x.id);
                    table.ForeignKey(
                        name: "fk_mounts_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_mounts_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_mounts_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "set_up_checks",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    mount_id = table.Column<long>(type: "bigint", nullable: false),
                    manner = table.Column<string>(type: "text", nullable: false),
                    turned = table.Column<decimal>(type: "numeric", nullable: false),
                    first_degrees = table.Column<decimal>(type: "numeric", nullable: false),
                    first_arc = table.Column<decimal>(type: "numeric", nullable: true),
                    first_length_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    second_degrees = table.Column<decimal>(type: "numeric", nullable: true),
                    second_arc = table.Column<decimal>(type: "numeric", nullable: true),
                    second_length_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    tolerance_mm = table.Column<decimal>(type: "numeric", nullable: false),
                    verdict = table.Column<string>(type: "text", nullable: false),
                    set_up_runout_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    part_runout_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    runout_now_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    cost_now_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    left_on_vehicle_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    set_up_share = table.Column<double>(type: "double precision", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_set_up_checks", x => x.id);
                    table.ForeignKey(
                        name: "fk_set_up_checks_mounts_mount_id",
                        column: x => x.mount_id,
                        principalTable: "mounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_set_up_checks_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_set_up_checks_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "set_up_decisions",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    mount_id = table.Column<long>(type: "bigint", nullable: false),
                    check_id = table.Column<long>(type: "bigint", nullable: true),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_set_up_decisions", x => x.id);
                    table.ForeignKey(
                        name: "fk_set_up_decisions_mounts_mount_id",
                        column: x => x.mount_id,
                        principalTable: "mounts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_set_up_decisions_set_up_checks_check_id",
                        column: x => x.check_id,
                        principalTable: "set_up_checks",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_set_up_decisions_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_set_up_decisions_users_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            // The one lathe that a shop had so far becomes its first; what was planned and cut, was on it.
            migrationBuilder.Sql("insert into lathes (shop_id, profile, turn) select id, lathe, 0 from shops");
            migrationBuilder.DropColumn(
                name: "lathe",
                table: "shops");

            migrationBuilder.Sql("alter table plans alter column lathe_id drop default");
            migrationBuilder.Sql("alter table passes alter column lathe_id drop default");
            migrationBuilder.Sql("alter table confirmations alter column lathe_id drop default");

            migrationBuilder.CreateIndex(
                name: "ix_plans_lathe_id",
                table: "plans",
                column: "lathe_id");

            migrationBuilder.CreateIndex(
                name: "ix_passes_lathe_id",
                table: "passes",
                column: "lathe_id");

            migrationBuilder.CreateIndex(
                name: "ix_adapters_shop_id",
                table: "adapters",
                column: "shop_id");

            migrationBuilder.CreateIndex(
                name: "ix_insert_events_by_id",
                table: "insert_events",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_insert_events_lathe_id_holder_at",
                table: "insert_events",
                columns: new[] { "lathe_id", "holder", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_lathes_shop_id",
                table: "lathes",
                column: "shop_id");

            migrationBuilder.CreateIndex(
                name: "ix_mounts_by_id",
                table: "mounts",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_mounts_lathe_id_at",
                table: "mounts",
                columns: new[] { "lathe_id", "at" });

            migrationBuilder.CreateIndex(
                name: "ix_mounts_surface_id",
                table: "mounts",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_checks_by_id",
                table: "set_up_checks",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_checks_mount_id",
                table: "set_up_checks",
                column: "mount_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_checks_surface_id",
                table: "set_up_checks",
                column: "surface_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_decisions_by_id",
                table: "set_up_decisions",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_decisions_check_id",
                table: "set_up_decisions",
                column: "check_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_decisions_mount_id",
                table: "set_up_decisions",
                column: "mount_id");

            migrationBuilder.CreateIndex(
                name: "ix_set_up_decisions_surface_id",
                table: "set_up_decisions",
                column: "surface_id");

            migrationBuilder.AddForeignKey(
                name: "fk_passes_lathes_lathe_id",
                table: "passes",
                column: "lathe_id",
                principalTable: "lathes",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            migrationBuilder.AddForeignKey(
                name: "fk_plans_lathes_lathe_id",
                table: "plans",
                column: "lathe_id",
                principalTable: "lathes",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);

            foreach (var table in new[] { "mounts", "set_up_checks", "set_up_decisions" })
            {
                migrationBuilder.Sql(FactRules.Stays(table));
                migrationBuilder.Sql($"create trigger {table}_before_outcome before insert on {table} for each row execute function refuse_after_outcome()");
            }
            migrationBuilder.Sql(FactRules.Stays("insert_events"));
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_passes_lathes_lathe_id",
                table: "passes");

            migrationBuilder.DropForeignKey(
                name: "fk_plans_lathes_lathe_id",
                table: "plans");

            migrationBuilder.DropTable(
                name: "adapters");

            migrationBuilder.DropTable(
                name: "insert_events");

            migrationBuilder.DropTable(
                name: "set_up_decisions");

            migrationBuilder.DropTable(
                name: "set_up_checks");

            migrationBuilder.DropTable(
                name: "mounts");

            migrationBuilder.DropTable(
                name: "lathes");

            migrationBuilder.DropIndex(
                name: "ix_plans_lathe_id",
                table: "plans");

            migrationBuilder.DropIndex(
                name: "ix_passes_lathe_id",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "lathe_id",
                table: "plans");

            migrationBuilder.DropColumn(
                name: "lathe_id",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "metres",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "shape",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "lathe_id",
                table: "confirmations");

            migrationBuilder.AddColumn<string>(
                name: "lathe",
                table: "shops",
                type: "jsonb",
                nullable: false,
                defaultValue: "");
        }
    }
}
