using System.Collections;
using System.Collections.Frozen;
using System.Globalization;
using System.Resources;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Web.Text;

/// <summary>
/// The words of the shop, from the resource files beside this one, one for each area. What Core names by code gets its sentence here, in
/// the
/// reader's unit.
/// </summary>
public static partial class Words
{
    private const string Resources = ".resources";
    private const string Script = "script.";

    private static readonly FrozenDictionary<string, string> All = Load();

    /// <summary>A sentence by its key, with figures put in.</summary>
    /// <exception cref="KeyNotFoundException">No file has the key: a fault of the program.</exception>
    public static string Say(string key, params object?[] with) =>
        string.Format(
            CultureInfo.InvariantCulture,
            Pseudo.Of(All.TryGetValue(key, out var words) ? words : throw new KeyNotFoundException($"No words for '{key}'.")),
            with
        );

    /// <summary>The words of the scripts by their keys, as JSON.</summary>
    public static string OfScripts { get; } =
        System.Text.Json.JsonSerializer.Serialize(
            All.Where(w => w.Key.StartsWith(Script, StringComparison.Ordinal)).ToDictionary(w => w.Key[Script.Length..], w => w.Value)
        );

    /// <summary>A number of bytes as a person reads it: three figures and a unit of thousands (SI).</summary>
    public static string Bytes(long bytes)
    {
        string[] units = ["kB", "MB", "GB", "TB"];
        var (size, unit) = (bytes / 1000m, 0);
        for (; size >= 1000 && unit < units.Length - 1; unit++)
            size /= 1000;
        var shown = decimal.Round(size, size < 10 ? 1 : 0, MidpointRounding.AwayFromZero);
        return shown.ToString(CultureInfo.InvariantCulture) + " " + units[unit];
    }

    /// <summary>Whether there are words for a key.</summary>
    public static bool Has(string key) => All.ContainsKey(key);

    /// <summary>The sentence, or the name itself where a shop has made up its own.</summary>
    public static string SayOr(string key, string otherwise) => All.TryGetValue(key, out var words) ? Pseudo.Of(words) : otherwise;

    private static FrozenDictionary<string, string> Load() =>
        typeof(Words)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith(typeof(Words).Namespace!, StringComparison.Ordinal) && n.EndsWith(Resources, StringComparison.Ordinal))
            .SelectMany(n =>
                new ResourceManager(n[..^Resources.Length], typeof(Words).Assembly)
                    .GetResourceSet(CultureInfo.InvariantCulture, createIfNotExists: true, tryParents: false)!
                    .Cast<DictionaryEntry>()
            )
            .ToFrozenDictionary(e => (string)e.Key, e => (string)e.Value!, StringComparer.Ordinal);

    public static string Of(Note note, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(note);
        if (note is Note.NotLookedAt { What: var what })
            return Say("note.notLookedAt." + what);
        if (note is Note.PlanOutlived { Change: var why })
            return Say("cut.outlived." + why);
        if (note is Note.OfEarlierVersion { Name: var name })
            return name;
        return Say(
            "note." + note.Code,
            Figure(note.Length, unit),
            Figure(note.Second, unit),
            note.Degrees is { } d ? Clock(d) : null,
            note.Subject is { } s ? SayOr("side." + s, SayOr("technique." + s, s)) : null
        );
    }

    /// <summary>Notes as they are listed: what nobody looked at is named in one line.</summary>
    public static IEnumerable<string> List(IEnumerable<Note> notes, LengthUnit unit)
    {
        var all = notes.ToList();
        List<string> unseen = [.. all.OfType<Note.NotLookedAt>().Select(n => Looked(n.What))];
        if (unseen.Count > 0)
            yield return Say("note.notLookedAt", string.Join("; ", unseen));
        List<string> byEye = [.. all.OfType<Note.LookAgain>().Select(n => Looked(n.What))];
        if (byEye.Count > 0)
            yield return Say("note.lookAgain", string.Join("; ", byEye));
        foreach (var note in all.Where(n => n is not (Note.NotLookedAt or Note.LookAgain)))
            yield return Of(note, unit);

        static string Looked(string what) => Say("look." + char.ToUpperInvariant(what[0]) + what[1..]).ToLowerInvariant();
    }

    /// <summary>What a step works out, with the side or pass that it is for.</summary>
    public static string Of(Step step)
    {
        ArgumentNullException.ThrowIfNull(step);
        var name = SayOr("step." + step.Quantity, step.Quantity);
        if (step.Subject is not { } subject)
            return name;
        if (char.IsAsciiDigit(subject[0]))
            return Say("worked.after", name, subject);
        var pass = SayOr("pass." + char.ToUpperInvariant(subject[0]) + subject[1..], subject);
        return $"{name}, {SayOr("side." + subject, pass).ToLowerInvariant()}";
    }

    /// <summary>How a step is computed: its formula with the numbers in, or in words where there is none.</summary>
    public static string How(Step step, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(step);
        return step.Formula.Length > 0 ? step.Arithmetic(unit) : SayOr("how." + step.Quantity, "");
    }

    /// <summary>What a step comes to.</summary>
    public static string Result(Step step, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(step);
        return step.Result.Name is { } state ? SayOr("state." + state, state) : step.Outcome(unit);
    }

    public static string Of(LengthFault fault, LengthUnit unit) =>
        Say("fault." + fault, unit == LengthUnit.Inch ? "0.957 or 8 7/8 + 132t" : "24.31 or 24+.31");

    public static string Of(Implausible doubt, Length value, Limits limits, LengthUnit unit)
    {
        ArgumentNullException.ThrowIfNull(limits);
        return Say("doubt." + doubt, With(value, unit), With(limits.Nominal ?? limits.MachineTo, unit));
    }

    /// <summary>A doubt about a reading, and the size that it is held against.</summary>
    public static string Of(Implausible doubt, Length value, Length against, LengthUnit unit) =>
        Say("doubt." + doubt, With(value, unit), With(against, unit));

    public static string Technique(string key) => SayOr("technique." + key, key);

    /// <summary>A surface in words: rotor, drum, or the drum in a rotor's hat.</summary>
    public static string Of(WorkSurface surface)
    {
        ArgumentNullException.ThrowIfNull(surface);
        return Say(surface.InHat ? "kind.InHat" : "kind." + surface.Kind);
    }

    /// <summary>A part in words: "Front left rotor", "Other drum, hub no. 2".</summary>
    public static string Of(Part part, WorkSurface? surface = null)
    {
        ArgumentNullException.ThrowIfNull(part);
        surface ??= part.Surfaces[0];
        return part.Corner == Corner.Other && part.Mark is { } mark
            ? $"{mark} {Of(surface)}"
            : $"{Say("corner." + part.Corner)} {Of(surface)}";
    }

    /// <summary>The part of a certificate in words.</summary>
    public static string Of(CertificateDocument proof)
    {
        ArgumentNullException.ThrowIfNull(proof);
        var kind = Say("kind." + proof.Surfaces[0].Kind);
        return proof.Corner == Corner.Other && proof.Mark is { } mark ? $"{mark} {kind}" : $"{Say("corner." + proof.Corner)} {kind}";
    }

    /// <summary>Where a limit was read: one source, several that agree, or several that do not.</summary>
    public static string SourcesOf(CertificateLimit limit)
    {
        ArgumentNullException.ThrowIfNull(limit);
        var sources = string.Join(" and ", limit.Sources.Select(s => Say("source." + s).ToLowerInvariant()));
        return Say(
            limit.Sources.Count == 1 ? "limits.oneSource"
                : limit.Agree ? "limits.agree"
                : "limits.differ",
            Say("limitKind." + limit.Kind),
            sources
        );
    }

    /// <summary>A step that made a limit laxer: was, is, who, why.</summary>
    public static string LaxerOf(LaxerLimit step, Reader reader)
    {
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(reader);
        return Say(
            "limits.laxer",
            Say("limitKind." + step.Kind),
            reader.With(step.Was),
            reader.With(step.Is),
            step.ByRules ? Say("limits.byRules") : "",
            step.SignedBy is { } signer ? Say("limits.signed", signer) : Say("limits.unsigned", step.By),
            step.Why
        );
    }

    /// <summary>A reading that was withdrawn: what, why, who.</summary>
    public static string WithdrawnOf(CertificateWithdrawal withdrawn, Reader reader)
    {
        ArgumentNullException.ThrowIfNull(withdrawn);
        ArgumentNullException.ThrowIfNull(reader);
        return Say(
            "limits.withdrawn",
            reader.With(withdrawn.Size.Size),
            Clock(withdrawn.Size.Degrees),
            withdrawn.By,
            withdrawn.Reason,
            withdrawn.SignedBy is { } signer ? Say("limits.signed", signer) : ""
        );
    }

    /// <summary>A reading whose gauge failed on its standard afterwards.</summary>
    public static string SuspectOf(CertificateSize reading, Reader reader)
    {
        ArgumentNullException.ThrowIfNull(reading);
        ArgumentNullException.ThrowIfNull(reader);
        return Say("limits.suspect", reader.With(reading.Size), Clock(reading.Degrees), reading.Gauge ?? "");
    }

    /// <summary>A place as on the face of a clock: 12, 1½, 3; anything between in degrees.</summary>
    public static string Clock(decimal degrees)
    {
        var hour = degrees % 360 / 30m;
        var whole = (int)Math.Floor(hour);
        var half = hour - whole;
        if (half is not (0m or 0.5m))
            return Math.Round(degrees % 360, 0).ToString(CultureInfo.InvariantCulture) + "°";
        return (whole == 0 ? 12 : whole).ToString(CultureInfo.InvariantCulture) + (half == 0.5m ? "½" : "");
    }

    /// <summary>A figure with its unit.</summary>
    /// <summary>How long it is until something, as in “in 2 h 20 min” or “in 1 day 4 h”.</summary>
    public static string Until(TimeSpan span)
    {
        var minutes = (long)Math.Ceiling(span.TotalMinutes);
        var (days, hours) = (minutes / 1440, minutes / 60 % 24);
        return days > 0 ? Say(days == 1 ? "until.day" : "until.days", days, hours)
            : hours > 0 ? Say("until.hours", hours, minutes % 60)
            : Say("until.minutes", minutes);
    }

    public static string With(Length length, LengthUnit unit) => LengthText.Reading(length, unit) + " " + LengthText.Name(unit);

    private static string? Figure(Length? length, LengthUnit unit) => length is { } l ? With(l, unit) : null;
}
