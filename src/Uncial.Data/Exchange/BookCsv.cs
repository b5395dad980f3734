using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;

namespace Uncial.Data.Exchange;

/// <summary>What a line of a file would do to the limit book.</summary>
public enum BookChange
{
    New,
    Changed,
    Same,
}

/// <summary>One line of a file.</summary>
/// <param name="Line">Its number in the file, the head being 1.</param>
/// <param name="Entry">What it says; null where it cannot be read.</param>
/// <param name="Faults">What is wrong, each with the column; empty where nothing is.</param>
/// <param name="Change">What it would do.</param>
public sealed record BookLine(int Line, BookEntry? Entry, IReadOnlyList<(string Column, string Fault)> Faults, BookChange Change);

/// <summary>
/// A limit book as CSV (docs/formats/limit-book.md): read with every fault named, written so that it reads back to the last digit.
/// </summary>
public static class BookCsv
{
    /// <summary>Largest file, in characters.</summary>
    public const int LargestFile = 2_000_000;

    /// <summary>Most lines of a file.</summary>
    public const int MostLines = 20_000;

    /// <summary>The columns, in order.</summary>
    public static IReadOnlyList<string> Columns { get; } =
    [
        "vehicle",
        "axle",
        "part",
        "new",
        "machine_to",
        "discard",
        "max_runout",
        "max_variation",
        "max_out_of_round",
        "across",
        "band",
        "unit",
        "source",
        "source_date",
    ];

    private static readonly string[] Sizes =
    [
        "new",
        "machine_to",
        "discard",
        "max_runout",
        "max_variation",
        "max_out_of_round",
        "across",
        "band",
    ];
    private static readonly string[] Waviness = ["max_runout", "max_variation", "max_out_of_round"];
    private static readonly string[] Needed = ["vehicle", "part", "unit", "source"];

    /// <summary>Reads a file.</summary>
    /// <param name="text">The file.</param>
    /// <param name="book">The entries that hold now.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <returns>Its lines, or what is wrong with the file as a whole.</returns>
    public static (IReadOnlyList<BookLine> Lines, string? Fault) Read(string text, IEnumerable<BookEntry> book, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(text);
        if (text.Length > LargestFile)
            return ([], $"The file is over {LargestFile / 1_000_000} MB.");
        var now = book.ToDictionary(e => e.Place);
        Dictionary<(string, Axle, PartKind, bool), int> seen = [];
        List<BookLine> lines = [];
        using var reader = new CsvReader(
            new StringReader(text.TrimStart('\uFEFF')),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                DetectDelimiter = true,
                DetectDelimiterValues = [",", ";", "\t"],
                TrimOptions = TrimOptions.Trim,
                BadDataFound = null,
                MissingFieldFound = null,
                PrepareHeaderForMatch = h => h.Header.ToLowerInvariant().Replace(' ', '_'),
            }
        );
        if (!reader.Read() || !reader.ReadHeader())
            return ([], "The file is empty.");
        var header = reader.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant().Replace(' ', '_')).ToList();
        if (header.FirstOrDefault(h => !Columns.Contains(h)) is { } strange)
            return ([], $"The head names a column “{strange}” that is none of: {string.Join(", ", Columns)}.");
        if (header.GroupBy(h => h).FirstOrDefault(g => g.Count() > 1) is { } twice)
            return ([], $"The head names the column “{twice.Key}” twice.");
        if (Needed.FirstOrDefault(n => !header.Contains(n)) is { } missing)
            return ([], $"The head lacks the column “{missing}”.");
        while (reader.Read())
        {
            if (lines.Count == MostLines)
                return ([], $"The file has over {MostLines} lines.");
            var line = new Line(reader, rules);
            var entry = line.Read();
            if (reader.Parser.Count > header.Count)
                line.Wrong(
                    "line",
                    $"{reader.Parser.Count} fields where the head has {header.Count}: is a comma in a figure? Then put the field in quotes."
                );
            if (entry is not null && !seen.TryAdd(entry.Place, reader.Parser.RawRow))
                line.Wrong("vehicle", $"The same part as in line {seen[entry.Place]}.");
            var change =
                entry is null || !now.TryGetValue(entry.Place, out var before) ? BookChange.New
                : before.SaysTheSameAs(entry) ? BookChange.Same
                : BookChange.Changed;
            lines.Add(new(reader.Parser.RawRow, line.Faults.Count == 0 ? entry : null, line.Faults, change));
        }
        return (lines, lines.Count == 0 ? "The file has a head and no lines." : null);
    }

    /// <summary>Writes entries.</summary>
    public static string Write(IEnumerable<BookEntry> entries)
    {
        ArgumentNullException.ThrowIfNull(entries);
        using var text = new StringWriter();
        using var csv = new CsvWriter(
            text,
            new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\n", InjectionOptions = InjectionOptions.Escape }
        );
        foreach (var column in Columns)
            csv.WriteField(column);
        csv.NextRecord();
        foreach (var e in entries)
        {
            csv.WriteField(e.Vehicle);
            csv.WriteField(e.Axle == Axle.Any ? "" : e.Axle.ToString().ToLowerInvariant());
            csv.WriteField(e.InHat ? "hat drum" : e.Kind.ToString().ToLowerInvariant());
            foreach (
                var length in new[] { e.Nominal, e.MachineTo, e.Discard, e.MaxRunout, e.MaxVariation, e.MaxOutOfRound, e.Across, e.Band }
            )
                csv.WriteField(Figure(length, e.Unit));
            csv.WriteField(LengthText.Name(e.Unit));
            csv.WriteField(e.Source);
            csv.WriteField(e.SourceDate?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
            csv.NextRecord();
        }
        csv.Flush();
        return text.ToString();
    }

    /// <summary>In the unit of its paper where that ends, otherwise in millimetres with the unit behind it.</summary>
    private static string Figure(Length? length, LengthUnit unit)
    {
        if (length is not { } l)
            return "";
        var figure = l.In(unit).ToString("0.############", CultureInfo.InvariantCulture);
        return Length.From(decimal.Parse(figure, CultureInfo.InvariantCulture), unit) == l
            ? figure
            : l.Millimetres.ToString("0.############", CultureInfo.InvariantCulture) + "mm";
    }

    private sealed class Line(CsvReader reader, ShopRules rules)
    {
        public List<(string Column, string Fault)> Faults { get; } = [];

        public void Wrong(string column, string fault) => Faults.Add((column, fault));

        public BookEntry? Read()
        {
            var vehicle = Text("vehicle");
            if (vehicle is null)
                Wrong("vehicle", "Missing.");
            var source = Text("source");
            if (source is null)
                Wrong("source", "Missing: where is it from?");
            foreach (var (column, text) in new[] { ("vehicle", vehicle), ("source", source) })
                if (text?.Length > 120)
                    Wrong(column, "Over 120 letters.");
            Axle? axle = Text("axle")?.ToLowerInvariant() switch
            {
                null or "any" => Axle.Any,
                "front" => Axle.Front,
                "rear" => Axle.Rear,
                _ => null,
            };
            if (axle is null)
                Wrong("axle", "front, rear, or nothing.");
            (PartKind Kind, bool InHat)? part = Text("part")?.ToLowerInvariant() switch
            {
                "rotor" => (PartKind.Rotor, false),
                "drum" => (PartKind.Drum, false),
                "hat drum" => (PartKind.Drum, true),
                _ => null,
            };
            if (part is null)
                Wrong("part", "rotor, drum, or hat drum.");
            LengthUnit? unit = Text("unit")?.ToLowerInvariant() switch
            {
                "mm" => LengthUnit.Millimetre,
                "in" or "inch" => LengthUnit.Inch,
                _ => null,
            };
            if (unit is null)
                Wrong("unit", "mm or in.");
            DateOnly? date = null;
            if (Text("source_date") is { } day)
            {
                if (DateOnly.TryParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var d))
                    date = d;
                else
                    Wrong("source_date", "A day as 2026-11-23.");
            }
            var u = unit ?? LengthUnit.Millimetre;
            var sizes = Sizes.ToDictionary(c => c, c => Size(c, u));
            if (part is { } p)
            {
                foreach (var column in Sizes.Take(3))
                    if (sizes[column] is { } limit && Plausibility.QuestionLimit(limit, p.Kind) is not null)
                        Wrong(
                            column,
                            $"No {p.Kind.ToString().ToLowerInvariant()} is {Figure(limit, u)} {LengthText.Name(u)}: is the unit right?"
                        );
                if (
                    Faults.Count == 0
                    && Limits.Create(p.Kind, sizes["new"], sizes["machine_to"], sizes["discard"], rules).Fault is { } fault
                )
                    Wrong(
                        fault == LimitFault.DiscardMissing ? "discard"
                            : fault == LimitFault.MachineToPastDiscard ? "machine_to"
                            : "new",
                        FaultText(fault, p.Kind)
                    );
                if (p.Kind == PartKind.Rotor && sizes["max_out_of_round"] is not null)
                    Wrong("max_out_of_round", "A rotor has none.");
                if (p.Kind == PartKind.Drum && sizes["max_variation"] is not null)
                    Wrong("max_variation", "A drum has none.");
            }
            foreach (var column in Waviness)
                if (sizes[column] is { Millimetres: > 5 })
                    Wrong(column, "Over 5 mm.");
            if (Faults.Count > 0 || part is not { } kind)
                return null;
            return new()
            {
                Vehicle = vehicle!,
                Axle = axle!.Value,
                Kind = kind.Kind,
                InHat = kind.InHat,
                Unit = u,
                Source = source!,
                SourceDate = date,
                Nominal = sizes["new"],
                MachineTo = sizes["machine_to"],
                Discard = sizes["discard"],
                MaxRunout = sizes["max_runout"],
                MaxVariation = sizes["max_variation"],
                MaxOutOfRound = sizes["max_out_of_round"],
                Across = sizes["across"],
                Band = sizes["band"],
            };
        }

        private string? Text(string column)
        {
            if (!reader.TryGetField<string>(column, out var text) || string.IsNullOrWhiteSpace(text))
                return null;
            // What a spreadsheet would take for a formula is written with an apostrophe before it.
            return text is ['\'', '=' or '+' or '-' or '@', ..] ? text[1..].Trim() : text.Trim();
        }

        private Length? Size(string column, LengthUnit unit)
        {
            if (Text(column) is not { } text)
                return null;
            var result = LengthParser.Parse(text, unit);
            if (result.Fault is not null)
                Wrong(column, $"“{text}” is no size.");
            return result.Typed?.Value;
        }

        private static string FaultText(LimitFault fault, PartKind part) =>
            (fault, part) switch
            {
                (LimitFault.DiscardMissing, _) => "Neither a discard nor a machine-to limit.",
                (LimitFault.MachineToPastDiscard, PartKind.Rotor) => "Machine-to is thinner than discard.",
                (LimitFault.MachineToPastDiscard, _) => "Machine-to is larger than discard.",
                (_, PartKind.Rotor) => "The new size is thinner than a limit.",
                _ => "The new size is larger than a limit.",
            };
    }
}
