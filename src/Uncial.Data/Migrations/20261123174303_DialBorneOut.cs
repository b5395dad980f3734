using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class DialBorneOut : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "dial_borne_out",
                table: "passes",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "dial_borne_out",
                table: "confirmations",
                type: "boolean",
                nullable: false,
                defaultValue: false);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "dial_borne_out",
                table: "passes");

            migrationBuilder.DropColumn(
                name: "dial_borne_out",
                table: "confirmations");
        }
    }
}
