using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Practice.Migrations
{
    /// <inheritdoc />
    public partial class OwnLessons : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "lessons",
                schema: "practice",
                columns: table => new
                {
                    id = table.Column<string>(type: "character varying(60)", maxLength: 60, nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    kept_by_id = table.Column<int>(type: "integer", nullable: false),
                    kept_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_lessons", x => x.id);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "lessons",
                schema: "practice");
        }
    }
}
