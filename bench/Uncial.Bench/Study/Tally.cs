using Uncial.Core.Parts;
using Uncial.Core.Practice;

namespace Uncial.Bench.Study;

/// <summary>What came of many parts worked one way.</summary>
internal sealed class Tally(Way way, PartKind kind)
{
    private readonly List<float> excess = [];
    private int parts;
    private int started;
    private int firstCleaned;
    private int clean;
    private long passes;
    private double minutes;
    private long bounds;
    private long boundFailures;
    private double worstFailure;
    private int released;
    private int unnoticed;
    private int beyond;
    private double worstBeyond;
    private int spoilt;
    private int heldBack;

    public Way Way => way;

    public PartKind Kind => kind;

    public int Beyond => beyond;

    public void Add(Outcome o)
    {
        parts++;
        if (o.Started)
        {
            started++;
            excess.Add((float)o.Excess);
            (passes, minutes, bounds, boundFailures) = (passes + o.Passes, minutes + o.Minutes, bounds + o.Bounds, boundFailures + o.BoundFailed.Times);
            worstFailure = Math.Max(worstFailure, o.BoundFailed.Most);
            if (o.CleanedByFirstPlan) firstCleaned++;
            if (o.Clean) clean++;
            if (o.InsideBefore >= 0 && o.InsideAfter < 0) spoilt++;
        }
        if (o.Released) released++;
        else if (o.InsideAfter >= 0) heldBack++;
        if (o.ReleasedPlainly && o.InsideMachineTo < 0) unnoticed++;
        if (!o.Released || o.InsideAfter >= 0) return;
        beyond++;
        worstBeyond = Math.Max(worstBeyond, -o.InsideAfter);
    }

    public void Add(Tally other)
    {
        excess.AddRange(other.excess);
        (parts, started, firstCleaned, clean, passes) = (parts + other.parts, started + other.started, firstCleaned + other.firstCleaned, clean + other.clean, passes + other.passes);
        (minutes, bounds, boundFailures, worstFailure) = (minutes + other.minutes, bounds + other.bounds, boundFailures + other.boundFailures, Math.Max(worstFailure, other.worstFailure));
        (released, unnoticed, beyond) = (released + other.released, unnoticed + other.unnoticed, beyond + other.beyond);
        (worstBeyond, spoilt, heldBack) = (Math.Max(worstBeyond, other.worstBeyond), spoilt + other.spoilt, heldBack + other.heldBack);
    }

    public static string Head =>
        "| kind | way of working | started | clean by the first plan | clean in the end | metal over the physical least, median | 95th | passes | minutes | bound failed | by at most | released | past machine-to unnoticed | spoilt | good, held back | **released beyond discard** | by at most |\n" +
        "| --- | --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |";

    public static string ReleaseHead => "| kind | left out | released | good, held back | **released beyond discard** | by at most |\n| --- | --- | ---: | ---: | ---: | ---: |";

    public string OfRelease() => FormattableString.Invariant(
        $"| {(kind == PartKind.Rotor ? "rotor" : "drum")} | {way.Name} | {released} | {100.0 * heldBack / parts:0.00} % | **{beyond}** | {worstBeyond:0.000} |");

    public static string BoundHead => "| kind | left out | started | bound failed | by at most |\n| --- | --- | ---: | ---: | ---: |";

    public string OfBound() => FormattableString.Invariant(
        $"| {(kind == PartKind.Rotor ? "rotor" : "drum")} | {way.Name} | {started} | {100.0 * boundFailures / Math.Max(1, bounds):0.00} % | {worstFailure:0.000} |");

    public override string ToString()
    {
        excess.Sort();
        float At(double share) => excess.Count == 0 ? 0 : excess[(int)Math.Min(excess.Count - 1, share * excess.Count)];
        string Percent(double of, double all) => all == 0 ? "–" : FormattableString.Invariant($"{100 * of / all:0.00} %");
        string Mm(double mm) => FormattableString.Invariant($"{mm:0.000}");
        return FormattableString.Invariant($"| {(kind == PartKind.Rotor ? "rotor" : "drum")} | {way.Name} | {started} | {Percent(firstCleaned, started)} | {Percent(clean, started)} | {Mm(At(0.5))} | {Mm(At(0.95))} | ") +
            FormattableString.Invariant($"{(double)passes / Math.Max(1, started):0.0} | {minutes / Math.Max(1, started):0.0} | {(bounds == 0 ? "–" : Percent(boundFailures, bounds))} | {(bounds == 0 ? "–" : Mm(worstFailure))} | ") +
            FormattableString.Invariant($"{released} | {unnoticed} | {spoilt} | {Percent(heldBack, parts)} | **{beyond}** | {Mm(worstBeyond)} |");
    }
}
