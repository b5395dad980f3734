using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Uncial.Data.Migrations;

/// <summary>Facts become append-only, and the release of a part beyond discard impossible.</summary>
public partial class UnbendableFacts : Migration
{
    /// <inheritdoc />
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.Sql(FactRules.Functions);
        migrationBuilder.Sql(FactRules.Guard);
        foreach (var table in FactRules.FactTables) migrationBuilder.Sql(FactRules.Stays(table));
        foreach (var table in new[] { "limit_entries", "readings", "plans", "passes", "confirmations" })
            migrationBuilder.Sql($"create trigger {table}_before_outcome before insert on {table} for each row execute function refuse_after_outcome()");
        migrationBuilder.Sql("create trigger outcomes_guard before insert on outcomes for each row execute function guard_outcome()");
    }

    /// <inheritdoc />
    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.Sql("drop trigger outcomes_guard on outcomes");
        foreach (var table in new[] { "limit_entries", "readings", "plans", "passes", "confirmations" })
            migrationBuilder.Sql($"drop trigger {table}_before_outcome on {table}");
        foreach (var table in FactRules.FactTables)
        {
            migrationBuilder.Sql($"drop trigger {table}_stay on {table}");
            migrationBuilder.Sql($"drop trigger {table}_stay_all on {table}");
        }
        migrationBuilder.Sql("drop function guard_outcome; drop function refuse_after_outcome; drop function refuse_change");
    }
}
