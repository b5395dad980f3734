using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Uncial.Data.Practice.Migrations
{
    /// <inheritdoc />
    public partial class Classes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "class_id",
                schema: "practice",
                table: "learners",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "code",
                schema: "practice",
                table: "learners",
                type: "character varying(12)",
                maxLength: 12,
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "class_id",
                schema: "practice",
                table: "attempts",
                type: "integer",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "classes",
                schema: "practice",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    name = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                    instructor_id = table.Column<int>(type: "integer", nullable: false),
                    is_same_part = table.Column<bool>(type: "boolean", nullable: false),
                    begun_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    closed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_classes", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "class_lessons",
                schema: "practice",
                columns: table => new
                {
                    class_id = table.Column<int>(type: "integer", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    lesson_id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    lesson_text = table.Column<string>(type: "text", nullable: false),
                    seed = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_class_lessons", x => new { x.class_id, x.number });
                    table.ForeignKey(
                        name: "fk_class_lessons_classes_class_id",
                        column: x => x.class_id,
                        principalSchema: "practice",
                        principalTable: "classes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_learners_class_id",
                schema: "practice",
                table: "learners",
                column: "class_id");

            migrationBuilder.CreateIndex(
                name: "ix_attempts_class_id",
                schema: "practice",
                table: "attempts",
                column: "class_id");

            migrationBuilder.CreateIndex(
                name: "ix_classes_instructor_id",
                schema: "practice",
                table: "classes",
                column: "instructor_id");

            migrationBuilder.AddForeignKey(
                name: "fk_attempts_classes_class_id",
                schema: "practice",
                table: "attempts",
                column: "class_id",
                principalSchema: "practice",
                principalTable: "classes",
                principalColumn: "id",
                onDelete: ReferentialAction.SetNull);

            migrationBuilder.AddForeignKey(
                name: "fk_learners_classes_class_id",
                schema: "practice",
                table: "learners",
                column: "class_id",
                principalSchema: "practice",
                principalTable: "classes",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_attempts_classes_class_id",
                schema: "practice",
                table: "attempts");

            migrationBuilder.DropForeignKey(
                name: "fk_learners_classes_class_id",
                schema: "practice",
                table: "learners");

            migrationBuilder.DropTable(
                name: "class_lessons",
                schema: "practice");

            migrationBuilder.DropTable(
                name: "classes",
                schema: "practice");

            migrationBuilder.DropIndex(
                name: "ix_learners_class_id",
                schema: "practice",
                table: "learners");

            migrationBuilder.DropIndex(
                name: "ix_attempts_class_id",
                schema: "practice",
                table: "attempts");

            migrationBuilder.DropColumn(
                name: "class_id",
                schema: "practice",
                table: "learners");

            migrationBuilder.DropColumn(
                name: "code",
                schema: "practice",
                table: "learners");

            migrationBuilder.DropColumn(
                name: "class_id",
                schema: "practice",
                table: "attempts");
        }
    }
}
