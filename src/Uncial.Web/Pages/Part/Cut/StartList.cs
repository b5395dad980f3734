using System.Globalization;
using Uncial.Core.Cutting;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Something to be looked at before a pass is started.</summary>
/// <param name="Kind">What it is about; a check that is asked for in parts is done when all its parts are.</param>
/// <param name="Code">Name of its tick.</param>
/// <param name="Text">What it is.</param>
/// <param name="State">tight, loose or on, for what is drawn on the lathe; null for the rest.</param>
public sealed record CutCheck(StartCheck Kind, string Code, string Text, string? State = null);

/// <summary>What is looked at before a pass: asked for by itself, or told in one block, by the pace of who starts it.</summary>
public sealed class StartList
{
    private static readonly StartCheck[] First = [StartCheck.Eyes, StartCheck.Insert, StartCheck.Ridges, StartCheck.Zero];
    private static readonly StartCheck[] Later = [StartCheck.Inwards, StartCheck.Hands];

    /// <summary>Puts the list together.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="pass">The pass that is due.</param>
    /// <param name="zeroes">The dials are set to zero anew for it.</param>
    /// <param name="isFirst">It is the first of its plan.</param>
    /// <param name="guided">Each thing is asked for by itself.</param>
    /// <param name="eyesToday">Who starts has seen to eyes, guard and sleeves at this lathe today.</param>
    public StartList(SurfaceRecord record, PlannedPass pass, bool zeroes, bool isFirst, bool guided, bool eyesToday)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(pass);
        var (lathe, rotor) = (record.Lathe.Profile, record.Kind == Core.Parts.PartKind.Rotor);
        var grinds = lathe.Kind == LatheKind.Grinder;
        Locks =
        [
            .. lathe.Locks.Select(
                (l, i) =>
                    new CutCheck(
                        StartCheck.Locks,
                        "lock" + i.ToString(CultureInfo.InvariantCulture),
                        l.Name,
                        (rotor ? l.TightForRotor : l.TightForDrum) ? "tight" : "loose"
                    )
            ),
        ];
        List<CutCheck> atLathe = guided ? [.. Locks] : [new(StartCheck.Locks, "locks", Words.Say("cut.locksAsShown", Locks.Count), "on")];
        atLathe.Add(new(StartCheck.Lever, "lever", Words.Say("cut.lever", rotor ? lathe.RotorLever : lathe.DrumLever), "on"));
        if (!grinds)
            atLathe.Add(new(StartCheck.Damping, "band", Words.Say(rotor ? "cut.band.rotor" : "cut.band.drum"), "on"));
        AtLathe = atLathe;

        var beside = (
            record.CutsDone == 0 || zeroes ? First
            : isFirst ? [StartCheck.Eyes, .. Later]
            : Later
        ).Where(c => !(grinds && c == StartCheck.Ridges)).Concat(pass.TurnFirst ? [StartCheck.Turned] : []).ToList();
        if (!eyesToday && !beside.Contains(StartCheck.Eyes))
            beside.Insert(0, StartCheck.Eyes);
        bool IsAsked(StartCheck check) => guided || check == StartCheck.Turned || (check == StartCheck.Eyes && !eyesToday);
        Asked = [.. beside.Where(IsAsked).Select(Of)];
        Told = [.. beside.Where(c => !IsAsked(c)).Select(Of)];

        CutCheck Of(StartCheck check)
        {
            var code = check.ToString().ToLowerInvariant();
            var form =
                grinds ? "grinder"
                : !rotor ? "drum"
                : lathe.TwinCutter ? "rotor"
                : "single";
            return new(
                check,
                code,
                Words.SayOr($"cut.{code}.{form}", Words.SayOr($"cut.{code}.{(rotor ? "rotor" : "drum")}", Words.SayOr("cut." + code, code)))
            );
        }
    }

    /// <summary>The locks of the lathe, as they must stand.</summary>
    public IReadOnlyList<CutCheck> Locks { get; }

    /// <summary>What is asked for beside the drawing of the lathe: locks, lever and damping.</summary>
    public IReadOnlyList<CutCheck> AtLathe { get; }

    /// <summary>What else is asked for.</summary>
    public IReadOnlyList<CutCheck> Asked { get; }

    /// <summary>What is told and confirmed with the start.</summary>
    public IReadOnlyList<CutCheck> Told { get; }

    /// <summary>The first thing that is asked for and not ticked; null where all is.</summary>
    public CutCheck? Open(IReadOnlyCollection<string> ticked) => AtLathe.Concat(Asked).FirstOrDefault(c => !ticked.Contains(c.Code));

    /// <summary>What was looked at, by the ticks: a check counts when all its parts are ticked.</summary>
    public IReadOnlyList<StartCheck> Done(IReadOnlyCollection<string> ticked) =>
        [.. AtLathe.Concat(Asked).GroupBy(c => c.Kind).Where(g => g.All(c => ticked.Contains(c.Code))).Select(g => g.Key)];
}
