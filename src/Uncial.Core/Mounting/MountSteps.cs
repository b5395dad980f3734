using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Mounting;

/// <summary>A step at the lathe. The wording is made at the edge, from the code and what it names.</summary>
/// <param name="Code">Stable name in camelCase.</param>
/// <param name="Names">Adapters, locks or directions that it names, in the lathe's own words.</param>
/// <param name="Caution">What can hurt here, by code; null where nothing does.</param>
public sealed record MountStep(string Code, IReadOnlyList<string> Names, string? Caution = null);

/// <summary>The steps from clean arbor to the first cut, for one part on one lathe.</summary>
public static class MountSteps
{
    /// <summary>A part is heavy from this diameter on.</summary>
    private static readonly Length Heavy = Length.FromMillimetres(280);

    /// <summary>How the part goes on.</summary>
    public static IReadOnlyList<MountStep> For(MountOption mounting, PartKind part, Length diameter, MountShape shape, Lathe lathe)
    {
        ArgumentNullException.ThrowIfNull(mounting);
        ArgumentNullException.ThrowIfNull(shape);
        ArgumentNullException.ThrowIfNull(lathe);
        var lift = diameter >= Heavy || part == PartKind.Drum ? "lift" : null;
        string Named(params PieceRole[] roles) => string.Join(", ", mounting.Stack.Where(p => roles.Contains(p.Role)).Select(p => p.Name));
        List<MountStep> steps = [];
        void Add(string code, string? caution = null, params string[] names) => steps.Add(new(code, names, caution));

        switch (mounting.Way)
        {
            case MountWay.ConeAndCups:
                Add("clean");
                if (Named(PieceRole.InnerSpacer) is { Length: > 0 } inner)
                    Add("innerSpacers", null, inner);
                Add("innerCup", null, Named(PieceRole.InnerCup));
                Add("cone", null, mounting.Centring);
                Add("partOn", lift ?? "fingers");
                Add("outerCup", null, Named(PieceRole.OuterCup));
                Nut();
                break;
            case MountWay.ChuckAndPlate:
                Add("clean");
                Add("plate", null, Named(PieceRole.Plate));
                Add("expand", lift ?? "fingers", mounting.Centring);
                if (Named(PieceRole.InnerSpacer) is { Length: > 0 } behind)
                    Add("innerSpacers", null, behind);
                Add("chuckOn");
                break;
            case MountWay.RaceCones:
                Add("races", "races");
                if (Named(PieceRole.InnerSpacer) is { Length: > 0 } near)
                    Add("innerSpacers", null, near);
                Add("raceCones", lift ?? "fingers", Named(PieceRole.NearRaceCone), Named(PieceRole.FarRaceCone));
                Nut();
                break;
            case MountWay.Jaws:
                Add("cleanDatum");
                Add("jaws", lift ?? "fingers", mounting.Centring);
                Add("indicate");
                break;
            case MountWay.FacePlate:
                Add("cleanDatum");
                Add("facePlate", lift ?? "fingers", mounting.Centring);
                Add("indicate");
                break;
            default:
                Add("cleanTable");
                Add("onTable", "magnet");
                Add("flip");
                break;
        }
        if (lathe.Kind != LatheKind.Grinder)
            Add(Damping(part, shape));
        if (lathe.Kind == LatheKind.Bench)
            Add("head", null, part == PartKind.Rotor ? lathe.RotorHead : lathe.DrumHead);
        if (lathe.Kind != LatheKind.Grinder)
            Add("insert", "edge");
        return steps;

        void Nut()
        {
            if (Named(PieceRole.OuterSpacer) is { Length: > 0 } outer)
                Add("outerSpacers", null, outer);
            Add(lathe.NutTightensClockwise ? "nutClockwise" : "nutAnticlockwise", "fingers");
        }
    }

    /// <summary>What damps the part, by code.</summary>
    public static string Damping(PartKind part, MountShape shape)
    {
        ArgumentNullException.ThrowIfNull(shape);
        return part == PartKind.Drum
            ? shape.Hubbed
                ? "dampCord"
                : "dampDrum"
            : shape.Vented
                ? "dampVents"
                : "dampSides";
    }

    /// <summary>First touch, ridges and run-in, with this lathe's dial and locks.</summary>
    public static IReadOnlyList<MountStep> ToFirstTouch(PartKind part, Lathe lathe)
    {
        ArgumentNullException.ThrowIfNull(lathe);
        var rotor = part == PartKind.Rotor;
        List<MountStep> steps = [new("guards", [], "spinning")];
        if (lathe.Kind == LatheKind.Grinder)
            return [.. steps, new("coolant", []), new("touchWheel", []), new("zeroWheel", [])];
        if (rotor && lathe.TwinCutter)
            steps.Add(new("centreTwin", []));
        steps.Add(
            new(
                rotor
                    ? lathe.TwinCutter
                        ? "touchBoth"
                        : "touchFace"
                    : "touchBore",
                []
            )
        );
        steps.Add(new(lathe.DialOf(part).CountsDiameter ? "zeroDiameter" : "zeroDepth", []));
        steps.Add(new(rotor ? "ridgesRotor" : "ridgeDrum", [], "ridge"));
        steps.Add(
            new(rotor ? "runInRotor" : "runInDrum", [lathe.RunInTurns.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture)])
        );
        return steps;
    }

    /// <summary>The tool stands out past the lathe's own mark: it reaches the back of a deep drum only with overhang.</summary>
    public static bool Overhangs(PartKind part, MountShape shape, Lathe lathe)
    {
        ArgumentNullException.ThrowIfNull(shape);
        ArgumentNullException.ThrowIfNull(lathe);
        return part == PartKind.Drum && lathe.Kind == LatheKind.Bench && shape.Depth is { } depth && depth > lathe.OverhangMark;
    }
}
