using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class HeadLedger : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "dial_took_mm",
                table: "confirmations",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "metal_gone_mm",
                table: "confirmations",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "slope",
                table: "confirmations",
                type: "double precision",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "dial_took_mm",
                table: "confirmations");

            migrationBuilder.DropColumn(
                name: "metal_gone_mm",
                table: "confirmations");

            migrationBuilder.DropColumn(
                name: "slope",
                table: "confirmations");
        }
    }
}
