using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations
{
    /// <inheritdoc />
    public partial class Instructors : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "instructs_since",
                table: "operators",
                type: "timestamp with time zone",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "instructs_since",
                table: "operators");
        }
    }
}
