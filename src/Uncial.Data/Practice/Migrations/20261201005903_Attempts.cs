using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Practice.Migrations
{
    /// <inheritdoc />
    public partial class Attempts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "attempts",
                schema: "practice",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    learner_id = table.Column<int>(type: "integer", nullable: false),
                    lesson_id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    lesson_text = table.Column<string>(type: "text", nullable: false),
                    seed = table.Column<long>(type: "bigint", nullable: false),
                    started_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    hand = table.Column<string>(type: "jsonb", nullable: true),
                    held = table.Column<string>(type: "jsonb", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_attempts", x => x.id);
                    table.ForeignKey(
                        name: "fk_attempts_learners_learner_id",
                        column: x => x.learner_id,
                        principalSchema: "practice",
                        principalTable: "learners",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "attempt_steps",
                schema: "practice",
                columns: table => new
                {
                    attempt_id = table.Column<long>(type: "bigint", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: false),
                    deed = table.Column<string>(type: "jsonb", nullable: true),
                    word = table.Column<string>(type: "character varying(40)", maxLength: 40, nullable: true),
                    mm = table.Column<decimal>(type: "numeric", nullable: true),
                    fact_id = table.Column<long>(type: "bigint", nullable: true),
                    is_taken_back = table.Column<bool>(type: "boolean", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_attempt_steps", x => new { x.attempt_id, x.number });
                    table.ForeignKey(
                        name: "fk_attempt_steps_attempts_attempt_id",
                        column: x => x.attempt_id,
                        principalSchema: "practice",
                        principalTable: "attempts",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_attempts_learner_id_started_at",
                schema: "practice",
                table: "attempts",
                columns: new[] { "learner_id", "started_at" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "attempt_steps",
                schema: "practice");

            migrationBuilder.DropTable(
                name: "attempts",
                schema: "practice");
        }
    }
}
