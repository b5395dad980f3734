using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Practice.Migrations
{
    /// <inheritdoc />
    public partial class AttemptSurfaces : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "surface",
                schema: "practice",
                table: "attempt_steps",
                type: "integer",
                nullable: false,
                defaultValue: 1);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "surface",
                schema: "practice",
                table: "attempt_steps");
        }
    }
}
