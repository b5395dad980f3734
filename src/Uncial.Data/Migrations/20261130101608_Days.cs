using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Days : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "board_pins",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    surface_id = table.Column<int>(type: "integer", nullable: false),
                    lathe_id = table.Column<int>(type: "integer", nullable: true),
                    place = table.Column<int>(type: "integer", nullable: true),
                    not_before = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_board_pins", x => x.id);
                    table.CheckConstraint("ck_board_pins_place", "place >= 0");
                    table.ForeignKey(
                        name: "fk_board_pins_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_board_pins_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_board_pins_surfaces_surface_id",
                        column: x => x.surface_id,
                        principalTable: "surfaces",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "day_hours",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    operator_id = table.Column<int>(type: "integer", nullable: true),
                    from = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    to = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    is_usual = table.Column<bool>(type: "boolean", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_day_hours", x => x.id);
                    table.CheckConstraint("ck_day_hours_both", "(\"from\" is null) = (\"to\" is null)");
                    table.ForeignKey(
                        name: "fk_day_hours_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_day_hours_operators_operator_id",
                        column: x => x.operator_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "day_settings",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    settings = table.Column<string>(type: "jsonb", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_day_settings", x => x.id);
                    table.ForeignKey(
                        name: "fk_day_settings_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "days_happened",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    result = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_days_happened", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "days_planned",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    day = table.Column<DateOnly>(type: "date", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    forecast = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_days_planned", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "job_urgencies",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    job_id = table.Column<int>(type: "integer", nullable: false),
                    is_urgent = table.Column<bool>(type: "boolean", nullable: false),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_job_urgencies", x => x.id);
                    table.ForeignKey(
                        name: "fk_job_urgencies_jobs_job_id",
                        column: x => x.job_id,
                        principalTable: "jobs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_job_urgencies_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "lathe_outages",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    lathe_id = table.Column<int>(type: "integer", nullable: false),
                    is_out = table.Column<bool>(type: "boolean", nullable: false),
                    reason = table.Column<string>(type: "character varying(300)", maxLength: 300, nullable: true),
                    back_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    turn = table.Column<int>(type: "integer", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lathe_outages", x => x.id);
                    table.CheckConstraint("ck_lathe_outages_reason", "not is_out or coalesce(length(trim(reason)), 0) > 0");
                    table.ForeignKey(
                        name: "fk_lathe_outages_lathes_lathe_id",
                        column: x => x.lathe_id,
                        principalTable: "lathes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "fk_lathe_outages_operators_by_id",
                        column: x => x.by_id,
                        principalTable: "operators",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "ix_board_pins_by_id",
                table: "board_pins",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_board_pins_lathe_id",
                table: "board_pins",
                column: "lathe_id");

            migrationBuilder.CreateIndex(
                name: "ix_board_pins_surface_id_turn",
                table: "board_pins",
                columns: new[] { "surface_id", "turn" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_day_hours_by_id",
                table: "day_hours",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_day_hours_day_operator_id_turn",
                table: "day_hours",
                columns: new[] { "day", "operator_id", "turn" },
                unique: true)
                .Annotation("Npgsql:NullsDistinct", false);

            migrationBuilder.CreateIndex(
                name: "ix_day_hours_operator_id",
                table: "day_hours",
                column: "operator_id");

            migrationBuilder.CreateIndex(
                name: "ix_day_settings_by_id",
                table: "day_settings",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_day_settings_turn",
                table: "day_settings",
                column: "turn",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_days_happened_day",
                table: "days_happened",
                column: "day",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_days_planned_day",
                table: "days_planned",
                column: "day",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_job_urgencies_by_id",
                table: "job_urgencies",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_job_urgencies_job_id_turn",
                table: "job_urgencies",
                columns: new[] { "job_id", "turn" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_lathe_outages_by_id",
                table: "lathe_outages",
                column: "by_id");

            migrationBuilder.CreateIndex(
                name: "ix_lathe_outages_lathe_id_turn",
                table: "lathe_outages",
                columns: new[] { "lathe_id", "turn" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "board_pins");

            migrationBuilder.DropTable(
                name: "day_hours");

            migrationBuilder.DropTable(
                name: "day_settings");

            migrationBuilder.DropTable(
                name: "days_happened");

            migrationBuilder.DropTable(
                name: "days_planned");

            migrationBuilder.DropTable(
                name: "job_urgencies");

            migrationBuilder.DropTable(
                name: "lathe_outages");
        }
    }
}
