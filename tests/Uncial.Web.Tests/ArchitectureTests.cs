using System.Reflection;
using NetArchTest.Rules;
using Uncial.Core;
using Uncial.Data;
using Uncial.Simulation;

namespace Uncial.Web.Tests;

/// <summary>The layers of docs/architecture.md: what may know what, and no folder in which nothing is found.</summary>
public partial class ArchitectureTests
{
    private const int FilesSideBySide = 12;

    private static readonly Assembly CoreAssembly = typeof(Note).Assembly,
        DataAssembly = typeof(UncialDb).Assembly,
        PracticeAssembly = typeof(Uncial.Practice.Drills.DrillItem).Assembly,
        SimulationAssembly = typeof(VirtualPart).Assembly;

    /// <summary>Names of the types of an assembly, in a namespace, that know one of the others.</summary>
    private static IEnumerable<string> ThatKnow(Assembly assembly, string within, params string[] others) =>
        Types.InAssembly(assembly).That().ResideInNamespace(within).ShouldNot().HaveDependencyOnAny(others).GetResult().FailingTypeNames
        ?? [];

    [Fact]
    public void Core_knows_no_database_no_web_no_clock_and_no_files() =>
        ThatKnow(
                CoreAssembly,
                "Uncial.Core",
                "Uncial.Data",
                "Uncial.Web",
                "Uncial.Simulation",
                "Microsoft",
                "Npgsql",
                "System.IO.File",
                "System.Net",
                "System.TimeProvider",
                "System.Text.Json.JsonSerializer"
            )
            .ShouldBeEmpty();

    [Fact]
    public void The_state_of_a_part_is_worked_out_by_no_other_layer_and_parsed_from_nothing() =>
        ThatKnow(CoreAssembly, "Uncial.Core.Workflow", "System.Text.Json").ShouldBeEmpty();

    [Fact]
    public void Data_knows_no_web_and_its_rows_no_commands_or_queries()
    {
        ThatKnow(DataAssembly, "Uncial.Data", "Uncial.Web", "Microsoft.AspNetCore.Mvc").ShouldBeEmpty();
        ThatKnow(DataAssembly, "Uncial.Data.Model", "Uncial.Data.Commands", "Uncial.Data.Queries", "Uncial.Data.Demo").ShouldBeEmpty();
    }

    [Fact]
    public void The_yardstick_shares_no_rule_with_what_it_measures() =>
        ThatKnow(
                SimulationAssembly,
                "Uncial.Simulation",
                "Uncial.Data",
                "Uncial.Core.Measuring",
                "Uncial.Core.Planning",
                "Uncial.Core.Release",
                "Uncial.Core.Cutting",
                "Uncial.Core.Workflow"
            )
            .ShouldBeEmpty();

    [Fact]
    public void Practice_knows_no_storage_no_pages_no_clock_and_no_files() =>
        ThatKnow(
                PracticeAssembly,
                "Uncial.Practice",
                "Uncial.Data",
                "Uncial.Web",
                "Microsoft",
                "Npgsql",
                "System.IO.File",
                "System.TimeProvider"
            )
            .ShouldBeEmpty();

    [Theory]
    [InlineData("src/Uncial.Core")]
    [InlineData("src/Uncial.Data")]
    [InlineData("src/Uncial.Web")]
    [InlineData("src/Uncial.DeviceSimulators")]
    [InlineData("src/Uncial.Simulation")]
    [InlineData("src/Uncial.Practice")]
    [InlineData("tests/Uncial.Core.Tests")]
    [InlineData("tests/Uncial.Testing")]
    [InlineData("tests/Uncial.Data.Tests")]
    [InlineData("tests/Uncial.Web.Tests")]
    [InlineData("tests/Uncial.Browser.Tests")]
    public void No_folder_has_more_than_a_dozen_files_of_code_side_by_side(string project)
    {
        string[] others = ["obj", "bin", "Migrations", "node_modules", "wwwroot", "Shared", "Integrity"];
        var root = Path.Combine(Repository.Root(), project);
        Directory
            .EnumerateDirectories(root, "*", SearchOption.AllDirectories)
            .Append(root)
            .Where(d => !Path.GetRelativePath(root, d).Split(Path.DirectorySeparatorChar).Any(others.Contains))
            .Select(d => (Folder: Path.GetRelativePath(root, d), Files: Directory.EnumerateFiles(d, "*.cs").Count()))
            .Where(d => d.Files > FilesSideBySide)
            .ShouldBeEmpty();
    }

    /// <summary>What a person may do is decided by Core and by a command, and what is wrong with a field said in one way.</summary>
    [Theory]
    [InlineData("SaveChanges")]
    [InlineData("BeginTransaction")]
    [InlineData("ExecuteSql")]
    [InlineData("ExecuteUpdate")]
    [InlineData("PostgresException")]
    [InlineData("AddModelError")]
    public void No_page_does_what_commands_and_forms_are_for(string what) =>
        Directory
            .EnumerateFiles(Path.Combine(Repository.Root(), "src/Uncial.Web/Pages"), "*.cs*", SearchOption.AllDirectories)
            .Where(f => File.ReadAllText(f).Contains(what, StringComparison.Ordinal))
            .Select(Path.GetFileName)
            .ShouldBeEmpty();

    /// <summary>A key without words would be a fault in front of the customer.</summary>
    [Fact]
    public void Every_text_that_a_page_names_has_its_words()
    {
        var web = Path.Combine(Repository.Root(), "src/Uncial.Web");
        var keys = Directory
            .EnumerateFiles(web, "*.cs*", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/bin/", StringComparison.Ordinal))
            .SelectMany(f => Said(File.ReadAllText(f)).SelectMany(call => NamedText().Matches(call).Select(m => m.Groups[1].Value)))
            .Distinct()
            .ToList();
        keys.Count.ShouldBeGreaterThan(500);
        keys.Where(k => !Uncial.Web.Text.Words.Has(k)).ShouldBeEmpty();
    }

    /// <summary>What stands in the brackets of every call that says something.</summary>
    private static IEnumerable<string> Said(string source)
    {
        const string call = "Words.Say(";
        for (var at = source.IndexOf(call, StringComparison.Ordinal); at >= 0; at = source.IndexOf(call, at + 1, StringComparison.Ordinal))
        {
            var (end, depth) = (at + call.Length, 1);
            for (; end < source.Length && depth > 0; end++)
                depth += source[end] switch
                {
                    '(' => 1,
                    ')' => -1,
                    _ => 0,
                };
            yield return source[at..end];
        }
    }

    /// <summary>Of two keys that differ in case alone, one is lost when they are built.</summary>
    [Fact]
    public void No_two_texts_have_names_that_differ_in_case_alone() =>
        Directory
            .EnumerateFiles(Path.Combine(Repository.Root(), "src/Uncial.Web/Text"), "*.resx", SearchOption.AllDirectories)
            .SelectMany(f => System.Xml.Linq.XDocument.Load(f).Root!.Elements("data").Select(d => d.Attribute("name")!.Value))
            .GroupBy(k => k, StringComparer.OrdinalIgnoreCase)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ShouldBeEmpty();

    /// <summary>A setting without a text would stop the page of settings.</summary>
    [Fact]
    public void Every_setting_says_what_it_is_and_does() =>
        Uncial
            .Core.Settings.ShopSettings.All.SelectMany(s =>
                new[] { $"setting.{s.Key}", $"setting.{s.Key}.what", $"setting.group.{s.Group}" }
            )
            .Where(k => !Uncial.Web.Text.Words.Has(k))
            .ShouldBeEmpty();

    [System.Text.RegularExpressions.GeneratedRegex(@"""([a-zA-Z]\w*(?:\.\w+)+)""\s*(?:[,):]|$)")]
    private static partial System.Text.RegularExpressions.Regex NamedText();
}
