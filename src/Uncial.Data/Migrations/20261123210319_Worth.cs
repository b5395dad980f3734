using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Worth : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "km_since_new",
                table: "parts",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "new_price",
                table: "parts",
                type: "numeric",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "km_since_new",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "new_price",
                table: "parts");
        }
    }
}
