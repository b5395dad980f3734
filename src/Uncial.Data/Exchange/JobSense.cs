using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Exchange;

/// <summary>
/// Looks at what a job file says: names that mean something, figures that can be, and that what was typed is what is said in millimetres.
/// </summary>
internal sealed class JobSense
{
    private const decimal Agree = 0.01m;
    private const int MostParts = 200;
    private const int MostReadings = 5000;

    public JobSense(JobFile file)
    {
        Within("number", file.Number, 1, 99_999_999);
        Text("vehicle", file.Vehicle, 120);
        Text("customer", file.Customer, 120);
        if (file.OdometerKm is { } km)
            Within("odometerKm", km, 0, 9_999_999);
        if (file.Parts.Count is 0 or > MostParts)
            Wrong("parts", $"From 1 to {MostParts} parts.");
        for (var i = 0; i < file.Parts.Count; i++)
            Part($"parts[{i}]", file.Parts[i]);
        foreach (var twice in file.Parts.GroupBy(p => p.Tag).Where(g => g.Count() > 1))
            Wrong("parts", $"Two parts with the tag {twice.Key}.");
    }

    public List<FileFault> Faults { get; } = [];

    private void Part(string path, FilePart part)
    {
        Text(path + ".tag", part.Tag, 12);
        if (!part.Tag.All(char.IsAsciiLetterOrDigit))
            Wrong(path + ".tag", "Letters and digits.");
        Text(path + ".mark", part.Mark, 60);
        Name<Corner>(path + ".corner", part.Corner);
        if (part.KmSinceNew is { } km)
            Within(path + ".kmSinceNew", km, 0, 9_999_999);
        if (part.Surfaces.Count is < 1 or > 2)
            Wrong(path + ".surfaces", "One or two.");
        for (var i = 0; i < part.Surfaces.Count; i++)
            Surface($"{path}.surfaces[{i}]", part.Surfaces[i]);
        for (var i = 0; i < part.Outcomes.Count; i++)
        {
            Name<OutcomeKind>($"{path}.outcomes[{i}].kind", part.Outcomes[i].Kind);
            if (part.Outcomes[i].Cause is { } cause)
                Name<ScrapCause>($"{path}.outcomes[{i}].cause", cause);
        }
    }

    private void Surface(string path, FileSurface surface)
    {
        Name<PartKind>(path + ".kind", surface.Kind);
        Within(path + ".diameterMm", surface.DiameterMm, 0, 2000);
        Within(path + ".bandMm", surface.BandMm, 0, 1000);
        Within(path + ".places", surface.Places, 1, 72);
        if (surface.DepthsMm.Count > 5)
            Wrong(path + ".depthsMm", "At most five.");
        for (var i = 0; i < surface.DepthsMm.Count; i++)
            Within($"{path}.depthsMm[{i}]", surface.DepthsMm[i], 0, 1000);
        for (var i = 0; i < surface.Limits.Count; i++)
        {
            var (limit, at) = (surface.Limits[i], $"{path}.limits[{i}]");
            Name<LimitKind>(at + ".kind", limit.Kind);
            Name<LimitSource>(at + ".source", limit.Source);
            Length(at, limit.Typed, limit.Unit, limit.Mm, 0);
        }
        if (surface.Readings.Count > MostReadings)
            Wrong(path + ".readings", $"At most {MostReadings}.");
        for (var i = 0; i < surface.Readings.Count; i++)
        {
            var (reading, at) = (surface.Readings[i], $"{path}.readings[{i}]");
            Name<ReadingKind>(at + ".of", reading.Of);
            Length(at, reading.Typed, reading.Unit, reading.Mm, reading.CorrectionMm);
            if (reading.Degrees is { } degrees)
                Within(at + ".degrees", degrees, 0, 359.999m);
            else if (reading.Of == JobFile.Name(ReadingKind.Size))
                Wrong(at + ".degrees", "A size has a place.");
            if (reading.StationMm is { } station)
                Within(at + ".stationMm", station, 0, 1000);
            Within(at + ".uncertaintyMm", reading.UncertaintyMm, 0, 10);
            Within(at + ".resolutionMm", reading.ResolutionMm, 0, 10);
            Within(at + ".cuts", reading.Cuts, 0, 1000);
            Text(at + ".note", reading.Note, 200);
        }
        for (var i = 0; i < surface.Confirmations.Count; i++)
            Name<Core.Release.Decision>($"{path}.confirmations[{i}].decision", surface.Confirmations[i].Decision);
    }

    private void Length(string path, string typed, string unit, decimal mm, decimal correction)
    {
        if (JobFile.UnitOf(unit) is not { } u)
        {
            Wrong(path + ".unit", "mm or in.");
            return;
        }
        Within(path + ".mm", mm, 0, LengthParser.LargestMillimetres);
        if (LengthParser.Parse(typed, u, allowZero: true).Typed is not { } read)
            Wrong(path + ".typed", $"“{typed}” is no length.");
        else if (Math.Abs(read.Value.Millimetres + correction - mm) > Agree)
            Wrong(
                path + ".mm",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"“{typed}” {unit} is {(read.Value.Millimetres + correction):0.####} mm, not {mm:0.####}."
                )
            );
    }

    private void Name<T>(string path, string name)
        where T : struct, Enum
    {
        if (JobFile.Named<T>(name) is null)
            Wrong(path, $"“{name}” is none of: {string.Join(", ", Enum.GetValues<T>().Select(JobFile.Name))}.");
    }

    private void Text(string path, string? text, int longest)
    {
        if (text is { Length: 0 })
            Wrong(path, "Empty.");
        if (text?.Length > longest)
            Wrong(path, $"Over {longest} letters.");
    }

    private void Within(string path, decimal value, decimal least, decimal most)
    {
        if (value < least || value > most)
            Wrong(path, string.Create(CultureInfo.InvariantCulture, $"From {least} to {most}."));
    }

    private void Wrong(string path, string what) => Faults.Add(new(path, what));
}
