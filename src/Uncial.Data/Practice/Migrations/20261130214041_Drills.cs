using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Practice.Migrations
{
    /// <inheritdoc />
    public partial class Drills : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.EnsureSchema(
                name: "practice");

            migrationBuilder.CreateTable(
                name: "learners",
                schema: "practice",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: true),
                    operator_id = table.Column<int>(type: "integer", nullable: true),
                    token_hash = table.Column<byte[]>(type: "bytea", nullable: true),
                    address = table.Column<string>(type: "character varying(64)", maxLength: 64, nullable: true),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    expires_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_learners", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "drill_runs",
                schema: "practice",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    learner_id = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    seed = table.Column<long>(type: "bigint", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_drill_runs", x => x.id);
                    table.ForeignKey(
                        name: "fk_drill_runs_learners_learner_id",
                        column: x => x.learner_id,
                        principalSchema: "practice",
                        principalTable: "learners",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "drill_answers",
                schema: "practice",
                columns: table => new
                {
                    run_id = table.Column<long>(type: "bigint", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    text = table.Column<string>(type: "character varying(120)", maxLength: 120, nullable: false),
                    is_right = table.Column<bool>(type: "boolean", nullable: false),
                    cause = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    off_mm = table.Column<decimal>(type: "numeric", nullable: true),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_drill_answers", x => new { x.run_id, x.number });
                    table.ForeignKey(
                        name: "fk_drill_answers_drill_runs_run_id",
                        column: x => x.run_id,
                        principalSchema: "practice",
                        principalTable: "drill_runs",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_drill_runs_learner_id_started_at",
                schema: "practice",
                table: "drill_runs",
                columns: new[] { "learner_id", "started_at" });

            migrationBuilder.CreateIndex(
                name: "ix_learners_expires_at",
                schema: "practice",
                table: "learners",
                column: "expires_at");

            migrationBuilder.CreateIndex(
                name: "ix_learners_operator_id",
                schema: "practice",
                table: "learners",
                column: "operator_id",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_learners_token_hash",
                schema: "practice",
                table: "learners",
                column: "token_hash",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "drill_answers",
                schema: "practice");

            migrationBuilder.DropTable(
                name: "drill_runs",
                schema: "practice");

            migrationBuilder.DropTable(
                name: "learners",
                schema: "practice");
        }
    }
}
