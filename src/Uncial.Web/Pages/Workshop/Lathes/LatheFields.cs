using System.Globalization;
using System.Runtime.CompilerServices;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>How the fields of a lathe are read.</summary>
public partial class LathesModel
{
    private Lathe? ReadProfile()
    {
        var (division, allowance, nose) = (Size(Typed.Division, 5), Size(Typed.DialAllowance, 5), Size(Typed.NoseRadius, 5));
        var (rotors, drums) = (Range("Rotors", Typed.Rotors), Range("Drums", Typed.Drums));
        var (feeds, speeds, locks) = (ReadFeeds(), ReadSpeeds(), ReadLocks());
        var (gears, drive) = ReadGears();
        if (!string.IsNullOrWhiteSpace(Typed.Address) && !GaugesModel.IsAddress(Typed.Address.Trim()))
            Reject("Typed.Address", Words.Say("lathes.hostColonPortSuchAs"));
        foreach (var (field, feed) in new[] { ("RoughFeed", Typed.RoughFeed), ("FinishFeed", Typed.FinishFeed) })
            if (!feeds.Any(f => f.Number == feed?.Trim()))
                Reject("Typed." + field, Words.Say("lathes.oneOfTheFeedNumbers"));
        var surface = Number("FastestSurface", Typed.FastestSurface, 1, 500);
        var (approach, change, turns) = (
            Number("Approach", Typed.Approach, 0, 60),
            Number("ChangeOver", Typed.ChangeOver, 0, 240),
            Number("RunInTurns", Typed.RunInTurns, 0, 50)
        );
        var (perTurn, edges, metres) = (
            Number("DivisionsPerTurn", Typed.DivisionsPerTurn, 10, 500),
            Number("Edges", Typed.Edges, 1, 16),
            Number("EdgeMetres", Typed.EdgeMetres, 1, 100_000)
        );
        var (overhang, room) = (Size(Typed.Overhang, 1000), Size(Typed.CutterRoom, 500));
        CheckNames();
        var now = Time.GetUtcNow();
        var dial = new HeadDial(
            division,
            Typed.DialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
            Typed.CountsDiameter,
            allowance,
            (int)perTurn
        );
        var bar = Typed is { BarHasDial: true, CutsDrums: true }
            ? new HeadDial(
                Size(Typed.BarDivision, 5),
                Typed.BarDialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
                Typed.BarCountsDiameter,
                Size(Typed.BarAllowance, 5),
                (int)Number("BarPerTurn", Typed.BarPerTurn, 10, 500)
            )
            : null;
        // Cuts that were measured with another dial, or before the head was realigned, say nothing of this one.
        DateTimeOffset? Since(HeadDial head, Core.Parts.PartKind part, bool realigned) =>
            Chosen?.Profile.DialOf(part) is not { } was ? null
            : realigned || !head.MovesAs(was.Division, was.CountsDiameter) ? now
            : was.Since;
        var (dialSince, barSince) = (
            Since(dial, Core.Parts.PartKind.Rotor, Typed.Realigned),
            Since(bar ?? dial, Core.Parts.PartKind.Drum, Typed.BarRealigned || (bar is null && Typed.Realigned))
        );
        // One dial for both, of which the drum's head alone was changed, is kept as two from here on.
        if (bar is null && barSince != dialSince)
            bar = dial;
        var arbor = ReadArbor();
        return !ModelState.IsValid
            ? null
            : new()
            {
                Name = Typed.Name!.Trim(),
                Kind = Typed.Kind,
                DialUnit = Typed.DialUnit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre,
                Division = division,
                DialAllowance = allowance,
                DivisionsPerTurn = (int)perTurn,
                CountsDiameter = Typed.CountsDiameter,
                NoseRadius = nose,
                Feeds = feeds,
                RoughFeed = Typed.RoughFeed!.Trim(),
                FinishFeed = Typed.FinishFeed!.Trim(),
                Speeds = speeds,
                Stepless = Typed.Stepless,
                Gears = gears,
                Drive = drive,
                FastestSurface = (double)surface,
                ApproachMinutes = approach,
                CutsRotors = Typed.CutsRotors,
                CutsDrums = Typed.CutsDrums,
                Rotors = rotors,
                Drums = drums,
                TwinCutter = Typed.TwinCutter && Typed.Kind != LatheKind.Grinder,
                BothFacesInOneChucking = Typed.OneChucking,
                RotorHead = Typed.RotorHead!.Trim(),
                DrumHead = Typed.DrumHead!.Trim(),
                ChangeOverMinutes = change,
                NutTightensClockwise = Typed.NutClockwise,
                Locks = locks,
                RotorLever = Typed.RotorLever!.Trim(),
                DrumLever = Typed.DrumLever!.Trim(),
                RunInTurns = turns,
                OverhangMark = overhang,
                CutterRoom = room,
                Arbor = arbor,
                EdgesPerInsert = (int)edges,
                EdgeMetres = metres,
                DialSince = dialSince,
                BarDial = bar is null ? null : bar with { Since = barSince },
            };
    }

    private void CheckNames()
    {
        foreach (
            var (field, text) in new[]
            {
                ("Name", Typed.Name),
                ("RotorHead", Typed.RotorHead),
                ("DrumHead", Typed.DrumHead),
                ("RotorLever", Typed.RotorLever),
                ("DrumLever", Typed.DrumLever),
            }
        )
            if (string.IsNullOrWhiteSpace(text) || text.Trim().Length > 60)
                Reject("Typed." + field, Words.Say("form.atMost", 60));
        if (Shop.Lathes.Any(l => l.Id != Chosen?.Id && l.Profile.Name == Typed.Name?.Trim()))
            Reject("Typed.Name", Words.Say("lathes.anotherLatheHasThatName"));
        if (!Typed.CutsRotors && !Typed.CutsDrums)
            Reject("Typed.Rotors", Words.Say("lathes.itCutsRotorsDrumsOr"));
    }

    /// <summary>The arbor of a bench lathe; null for any other.</summary>
    private Arbor? ReadArbor()
    {
        if (Typed.Kind != LatheKind.Bench)
            return null;
        var arbor = new Arbor(
            Size(Typed.ArborDiameter, 200),
            Size(Typed.ArborRoom, 1000),
            Size(Typed.ArborThread, 1000),
            Size(Typed.ArborNut, 200)
        );
        if (ModelState.IsValid && (arbor.Thread > arbor.Room || arbor.Nut > arbor.Thread))
            Reject("Typed.ArborThread", Words.Say("lathes.nutOnThread"));
        return arbor;
    }

    private Length Size(LengthInput? input, decimal most, [CallerArgumentExpression(nameof(input))] string field = "") =>
        ReadLength(input, LengthRule.UpTo(most), field)?.Value ?? Length.Zero;

    private DiameterRange Range(string field, string? text)
    {
        if (
            (text ?? "").Split(" to ", StringSplitOptions.TrimEntries) is [var from, var to]
            && LengthParser.Parse(from, Reader.Unit).Typed is { } least
            && LengthParser.Parse(to, Reader.Unit).Typed is { } greatest
            && least.Value <= greatest.Value
        )
            return new(least.Value, greatest.Value);
        Reject("Typed." + field, Words.Say("lathes.fromLeastToGreatestSuch"));
        return new(Length.Zero, Length.Zero);
    }

    private decimal Number(string field, string? text, decimal least, decimal most)
    {
        if (decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n >= least && n <= most)
            return n;
        Reject("Typed." + field, Words.Say("lathes.aNumberFromTo", N(least), N(most)));
        return 0;
    }

    private List<Feed> ReadFeeds()
    {
        List<Feed> feeds = [];
        var most = Typed.FeedsByTime ? 500 : 5;
        foreach (var text in (Typed.Feeds ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                text.Split(':') is [{ Length: > 0 and <= 8 } number, var size]
                && LengthParser.Parse(size, Reader.Unit).Typed is { } typed
                && typed.Value.Millimetres <= most
            )
                feeds.Add(Typed.FeedsByTime ? new(number, Length.Zero, typed.Value) : new(number, typed.Value));
            else
                Reject("Typed.Feeds", Words.Say("lathes.numberColonFeedSuchAs"));
        }
        if (feeds.Count == 0)
            Reject("Typed.Feeds", Words.Say("lathes.atLeastOneFeedSuch"));
        return feeds;
    }

    private List<decimal> ReadSpeeds()
    {
        var speeds = (Typed.Speeds ?? "")
            .Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
            .Where(t => t != "to")
            .Select(t =>
                decimal.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 5000 ? n : 0
            )
            .ToList();
        if (speeds.Count == 0 || speeds.Contains(0) || (Typed.Stepless && speeds.Count != 2))
            Reject("Typed.Speeds", Typed.Stepless ? Words.Say("lathes.slowestToFastestSuchAs") : Words.Say("lathes.turnsAMinuteWithA"));
        return speeds;
    }

    private (List<decimal> Gears, DriveRange Drive) ReadGears()
    {
        if (string.IsNullOrWhiteSpace(Typed.Gears))
            return ([], new(0.4m, 1.2m));
        static decimal? Read(string text) =>
            decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 5000
                ? n
                : null;
        var gears = Typed.Gears.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Select(Read).ToList();
        if (gears.Contains(null))
            Reject("Typed.Gears", Words.Say("lathes.turnsAMinuteOfEach"));
        if (
            (Typed.Drive ?? "").Split(" to ", StringSplitOptions.TrimEntries) is [var from, var to]
            && Read(from) is { } least and <= 1
            && Read(to) is { } greatest and >= 1 and <= 3
        )
            return ([.. gears.OfType<decimal>()], new(least, greatest));
        Reject("Typed.Drive", Words.Say("lathes.slowestToFastestOfThe"));
        return ([], new(0.4m, 1.2m));
    }

    private List<LatheLock> ReadLocks()
    {
        List<LatheLock> locks = [];
        foreach (var text in (Typed.Locks ?? "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                text.Split(':', StringSplitOptions.TrimEntries)
                is [{ Length: > 0 and <= 40 } name, "rotor" or "drum" or "both" or "free"] parts
            )
                locks.Add(new(name, parts[1] is "rotor" or "both", parts[1] is "drum" or "both"));
            else
                Reject("Typed.Locks", Words.Say("lathes.nameColonWhenItIs"));
        }
        return locks;
    }
}
