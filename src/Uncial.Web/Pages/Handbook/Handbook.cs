using System.Reflection;
using System.Text.RegularExpressions;
using Markdig;
using Markdig.Renderers.Html;
using Markdig.Syntax;

namespace Uncial.Web.Pages;

/// <summary>A page of the handbook: a station, or what belongs to all of them.</summary>
/// <param name="Topic">Its name in addresses.</param>
/// <param name="Title">Its title.</param>
/// <param name="Html">Its text, rendered.</param>
/// <param name="Sections">Its sections.</param>
public sealed record HandbookPage(string Topic, string Title, string Html, IReadOnlyList<HandbookSection> Sections);

/// <summary>A section of a page, for finding.</summary>
/// <param name="Anchor">Where it begins on its page; empty for what stands before the first heading.</param>
/// <param name="Heading">Its heading.</param>
/// <param name="Text">Its words, without marks.</param>
public sealed record HandbookSection(string Anchor, string Heading, string Text);

/// <summary>The handbook in docs/handbook, which ships inside the program.</summary>
public static partial class Handbook
{
    /// <summary>The order of its pages: that in which a part is worked on.</summary>
    private static readonly string[] Order =
    [
        "bench",
        "receive",
        "look",
        "measure",
        "mount",
        "plan",
        "cut",
        "confirm",
        "release",
        "practice",
    ];

    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder()
        .UsePipeTables()
        .UseAutoIdentifiers()
        .DisableHtml()
        .Build();

    /// <summary>All pages, in order.</summary>
    public static IReadOnlyList<HandbookPage> Pages { get; } = [.. Order.Select(Load)];

    /// <summary>A page by its topic, or null.</summary>
    public static HandbookPage? Page(string topic) => Pages.FirstOrDefault(p => p.Topic == topic);

    /// <summary>A drawing by its name, or null.</summary>
    public static Stream? Drawing(string name) => Open(name + ".svg");

    /// <summary>Sections in which every word that is looked for stands, as a part of a word or a whole one.</summary>
    public static IEnumerable<(HandbookPage Page, HandbookSection Section)> Find(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        return words.Length == 0
            ? []
            : Pages.SelectMany(p =>
                p.Sections.Where(s =>
                        words.All(w =>
                            s.Text.Contains(w, StringComparison.OrdinalIgnoreCase)
                            || s.Heading.Contains(w, StringComparison.OrdinalIgnoreCase)
                            || p.Title.Contains(w, StringComparison.OrdinalIgnoreCase)
                        )
                    )
                    .Select(s => (p, s))
            );
    }

    private static Stream? Open(string file) => Assembly.GetExecutingAssembly().GetManifestResourceStream("handbook/" + file);

    private static HandbookPage Load(string topic)
    {
        using var reader = new StreamReader(
            Open(topic + ".md") ?? throw new InvalidOperationException($"The handbook has no page {topic}.")
        );
        var source = reader.ReadToEnd();
        var document = Markdown.Parse(source, Pipeline);
        var headings = document.OfType<HeadingBlock>().ToList();
        List<HandbookSection> sections = [];
        for (var i = 0; i < headings.Count; i++)
        {
            var from = headings[i].Span.End + 1;
            var to = i + 1 < headings.Count ? headings[i + 1].Span.Start : source.Length;
            sections.Add(
                new(
                    headings[i].Level == 1 ? "" : headings[i].GetAttributes().Id ?? "",
                    TextOf(source[headings[i].Span.Start..from]),
                    TextOf(source[from..to])
                )
            );
        }
        return new(topic, sections[0].Heading, document.ToHtml(Pipeline), sections);
    }

    private static string TextOf(string markdown) => Blanks().Replace(Markdown.ToPlainText(markdown, Pipeline), " ").Trim();

    [GeneratedRegex("\\s+", RegexOptions.NonBacktracking)]
    private static partial Regex Blanks();
}

/// <summary>Where the handbook's drawings are.</summary>
internal static class HandbookDrawings
{
    public static void MapHandbookDrawings(this IEndpointRouteBuilder app) =>
        app.MapGet("/handbook/{name:alpha}.svg", (string name) =>
                Handbook.Drawing(name) is { } drawing ? Results.Stream(drawing, "image/svg+xml") : Results.NotFound()
            )
            .ExcludeFromDescription();
}
