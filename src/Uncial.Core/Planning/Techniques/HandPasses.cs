using System.Globalization;
using Uncial.Core.Lengths;

namespace Uncial.Core.Planning;

/// <summary>One pass as an operator has set it.</summary>
/// <param name="Kind">What it is for.</param>
/// <param name="Divisions">Whole dial divisions, for each side; 0 where a side is not cut.</param>
public sealed record HandPass(PassKind Kind, IReadOnlyList<long> Divisions);

/// <summary>
/// The passes of a plan while they are moved by hand, by whole divisions of the dial. No pass gets deeper than the shop's heaviest, and one
/// that cuts a side keeps at least a division there: bits of a twin cutter hold each other.
/// </summary>
public sealed class HandPasses
{
    /// <summary>Most passes that are planned.</summary>
    public const int Most = 100;

    private readonly long most;

    /// <summary>Takes passes up.</summary>
    /// <param name="passes">At least one, all with as many sides.</param>
    /// <param name="heaviest">Heaviest pass of the shop, per side.</param>
    /// <param name="dial">The lathe's dial.</param>
    public HandPasses(IReadOnlyList<HandPass> passes, Length heaviest, Dial dial)
    {
        ArgumentNullException.ThrowIfNull(passes);
        ArgumentNullException.ThrowIfNull(dial);
        (Passes, most) = (passes, Math.Max(1, (long)Math.Floor(heaviest / dial.DepthPerDivision)));
    }

    /// <summary>The passes as they stand.</summary>
    public IReadOnlyList<HandPass> Passes { get; private set; }

    /// <summary>
    /// Moves the line at which a pass ends on one side. What the pass gains the next one on that side gives, so that only these two change;
    /// the last line moves what is taken in all.
    /// </summary>
    /// <param name="pass">Its place, from 0.</param>
    /// <param name="side">Side: 0 outer face or bore, 1 inner face.</param>
    /// <param name="by">Divisions, deeper if positive; goes as far as it may.</param>
    public void Move(int pass, int side, long by)
    {
        if (pass < 0 || pass >= Passes.Count || side < 0 || side >= Passes[pass].Divisions.Count || Passes[pass].Divisions[side] == 0)
            return;
        var here = Passes[pass].Divisions[side];
        var next = -1;
        for (var i = pass + 1; i < Passes.Count && next < 0; i++)
            if (Passes[i].Divisions[side] > 0)
                next = i;
        var (down, up) = (1 - here, most - here);
        if (next >= 0)
        {
            var after = Passes[next].Divisions[side];
            (down, up) = (Math.Max(down, after - most), Math.Min(up, after - 1));
        }
        // Where a plan lies outside already, it may only come back.
        by = Math.Clamp(by, Math.Min(0, down), Math.Max(0, up));
        Passes =
        [
            .. Passes.Select(
                (p, i) =>
                    i == pass ? With(p, side, by)
                    : i == next ? With(p, side, -by)
                    : p
            ),
        ];
    }

    /// <summary>Lifts a pass out; those that follow keep their own depths. The last that is left stays.</summary>
    public void Lift(int pass)
    {
        if (Passes.Count < 2 || pass < 0 || pass >= Passes.Count || Passes[pass].Kind == PassKind.SparkOut)
            return;
        Passes = [.. Passes.Where((_, i) => i != pass)];
    }

    /// <summary>Puts a roughing pass before another one, on the sides that it cuts.</summary>
    /// <param name="before">Place of the pass that it comes before.</param>
    /// <param name="divisions">Depth on each of those sides, 1 or more.</param>
    public void Add(int before, long divisions)
    {
        if (before < 0 || before >= Passes.Count || Passes.Count >= Most)
            return;
        var depth = Math.Clamp(divisions, 1, most);
        // Sparking out cuts nothing itself: the pass before it says which sides are cut.
        var like = Passes[Passes[before].Kind == PassKind.SparkOut && before > 0 ? before - 1 : before];
        Passes = [.. Passes.Take(before), new(PassKind.Rough, [.. like.Divisions.Select(d => d > 0 ? depth : 0)]), .. Passes.Skip(before)];
    }

    /// <summary>The passes in short, such as <c>R5-5.F9-5</c>: R rough, F finish, S spark out, with the divisions of each side.</summary>
    public string Write() =>
        string.Join(
            '.',
            Passes.Select(p =>
                (
                    p.Kind switch
                    {
                        PassKind.Rough => "R",
                        PassKind.Finish => "F",
                        _ => "S",
                    }
                ) + string.Join('-', p.Divisions)
            )
        );

    /// <summary>Reads what <see cref="Write"/> wrote.</summary>
    /// <param name="text">Passes in short.</param>
    /// <param name="sides">1 or 2.</param>
    /// <returns>The passes, or null where the text says none of this part.</returns>
    public static IReadOnlyList<HandPass>? Read(string? text, int sides)
    {
        if (string.IsNullOrEmpty(text) || text.Length > Most * 12)
            return null;
        List<HandPass> passes = [];
        foreach (var word in text.Split('.'))
        {
            PassKind? kind =
                word.Length < 2
                    ? null
                    : word[0] switch
                    {
                        'R' => PassKind.Rough,
                        'F' => PassKind.Finish,
                        'S' => PassKind.SparkOut,
                        _ => null,
                    };
            if (kind is not { } of || passes.Count >= Most)
                return null;
            var divisions = new List<long>(sides);
            foreach (var figure in word[1..].Split('-'))
            {
                if (figure.Length > 5 || !long.TryParse(figure, NumberStyles.None, CultureInfo.InvariantCulture, out var d))
                    return null;
                divisions.Add(d);
            }
            if (divisions.Count != sides || divisions.Any(d => d > 0) == (of == PassKind.SparkOut))
                return null;
            passes.Add(new(of, divisions));
        }
        return passes;
    }

    /// <summary>
    /// Whether passes can be made at all: something is cut; a twin cutter cuts every side in each pass, a single tool one; only a technique
    /// without a finishing cut sparks out.
    /// </summary>
    /// <param name="passes">The passes.</param>
    /// <param name="request">What the plan rests on.</param>
    /// <param name="technique">The technique that they started from.</param>
    public static bool CanBeMade(IReadOnlyList<HandPass> passes, PlanRequest request, Technique technique)
    {
        ArgumentNullException.ThrowIfNull(passes);
        ArgumentNullException.ThrowIfNull(request);
        ArgumentNullException.ThrowIfNull(technique);
        var sides = request.Sides.Count;
        var together = request.TwinCutter || sides == 1 ? sides : 1;
        var touched = -1;
        foreach (var pass in passes)
        {
            if (pass.Divisions.Count != sides)
                return false;
            var cuts = pass.Divisions.Count(d => d > 0);
            if (
                pass.Kind == PassKind.SparkOut
                    ? !technique.SparksOut || cuts > 0
                    : cuts != together || (pass.Kind == PassKind.Finish && technique.SparksOut)
            )
                return false;
            if (pass.Kind == PassKind.SparkOut || together == sides)
                continue;
            // The part is turned round once: the outer face is done before the inner one is begun.
            var side = pass.Divisions[0] > 0 ? 0 : 1;
            if (side < touched)
                return false;
            touched = side;
        }
        return passes.Any(p => p.Kind != PassKind.SparkOut);
    }

    private static HandPass With(HandPass pass, int side, long by) =>
        pass with
        {
            Divisions = [.. pass.Divisions.Select((d, i) => i == side ? d + by : d)],
        };
}
