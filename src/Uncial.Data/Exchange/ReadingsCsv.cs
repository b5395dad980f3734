using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Uncial.Core.Lengths;

namespace Uncial.Data.Exchange;

/// <summary>The readings of parts as CSV, to the last digit. See docs/formats/readings.md.</summary>
public static class ReadingsCsv
{
    /// <summary>The columns, in their order.</summary>
    public static IReadOnlyList<string> Columns { get; } =
    [
        "tag",
        "visit",
        "surface",
        "of",
        "after_passes",
        "degrees",
        "station_mm",
        "mm",
        "typed",
        "unit",
        "correction_mm",
        "uncertainty_mm",
        "gauge",
        "taken_utc",
        "by",
        "stands",
        "note",
    ];

    /// <summary>
    /// Writes every reading of parts, those that were taken back included. The parts are loaded with their facts and names.
    /// </summary>
    public static string Write(IEnumerable<Part> parts, Shop shop)
    {
        ArgumentNullException.ThrowIfNull(parts);
        ArgumentNullException.ThrowIfNull(shop);
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (
            var csv = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape, NewLine = "\n" }
            )
        )
        {
            foreach (var column in Columns)
                csv.WriteField(column);
            csv.NextRecord();
            foreach (
                var (part, surface, r) in parts.SelectMany(p =>
                    p.Surfaces.SelectMany(s => s.Readings.OrderBy(r => r.Id).Select(r => (p, s, r)))
                )
            )
            {
                csv.WriteField(part.Tag);
                csv.WriteField(part.Visit);
                csv.WriteField(surface.InHat ? "hat drum" : JobFile.Name(surface.Kind));
                csv.WriteField(JobFile.Name(r.Kind));
                csv.WriteField(r.Cuts);
                csv.WriteField(r.Degrees);
                csv.WriteField(r.Station?.Millimetres);
                csv.WriteField(r.Value.Millimetres);
                csv.WriteField(r.Typed);
                csv.WriteField(LengthText.Name(r.Unit));
                csv.WriteField(r.Correction.Millimetres);
                csv.WriteField(r.Uncertainty.Millimetres);
                csv.WriteField(shop.Gauges.Find(g => g.Id == r.GaugeId)?.Name);
                csv.WriteField(r.TakenAt.UtcDateTime.ToString("s", CultureInfo.InvariantCulture) + "Z");
                csv.WriteField(r.By?.DisplayName);
                csv.WriteField(
                    r.Withdrawal is { } back ? "taken back: " + back.Reason
                    : r.Flag is not null ? "in doubt"
                    : "yes"
                );
                csv.WriteField(r.Note);
                csv.NextRecord();
            }
        }
        return text.ToString();
    }
}
