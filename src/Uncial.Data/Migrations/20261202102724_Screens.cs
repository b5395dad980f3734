using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Screens : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "lock_after_minutes",
                table: "shops",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "lathe_id",
                table: "screens",
                type: "integer",
                nullable: true);

            migrationBuilder.AddCheckConstraint(
                name: "lock_after_minutes",
                table: "shops",
                sql: "lock_after_minutes between 1 and 240");

            migrationBuilder.CreateIndex(
                name: "ix_screens_lathe_id",
                table: "screens",
                column: "lathe_id");

            migrationBuilder.AddForeignKey(
                name: "fk_screens_lathes_lathe_id",
                table: "screens",
                column: "lathe_id",
                principalTable: "lathes",
                principalColumn: "id",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_screens_lathes_lathe_id",
                table: "screens");

            migrationBuilder.DropCheckConstraint(
                name: "lock_after_minutes",
                table: "shops");

            migrationBuilder.DropIndex(
                name: "ix_screens_lathe_id",
                table: "screens");

            migrationBuilder.DropColumn(
                name: "lock_after_minutes",
                table: "shops");

            migrationBuilder.DropColumn(
                name: "lathe_id",
                table: "screens");
        }
    }
}
