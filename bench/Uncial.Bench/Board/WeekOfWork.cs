using Uncial.Core.Parts;
using Uncial.Core.Scheduling;

namespace Uncial.Bench.Board;

/// <summary>A part of a made-up week, with how long its steps really take: nobody who plans knows that.</summary>
internal sealed record WeekPart(
    int Id,
    int Job,
    PartKind Kind,
    string Adapters,
    int Measure,
    int Attended,
    int Feeding,
    int Confirm,
    bool IsCracked
);

/// <summary>A job of a made-up week; times in minutes from Monday's midnight.</summary>
internal sealed record WeekJob(int Id, int Arrives, int Promised, IReadOnlyList<WeekPart> Parts);

/// <summary>
/// A week that is made up: arrivals, how long work really takes with its remounts, cracks, and a lathe that breaks. Two lathes, two
/// operators, Monday to Friday.
/// </summary>
internal sealed class WeekOfWork
{
    public const int Lathes = 2,
        Operators = 2,
        Days = 5,
        HeadMinutes = 12,
        AdapterMinutes = 3;

    private const int Day = 1440,
        Opens = 8 * 60,
        Closes = 17 * 60,
        PauseFrom = 12 * 60 + 15,
        PauseTo = 13 * 60;

    private static readonly string[] Cones = ["cone 2", "cone 3", "cone 4"];
    private static readonly string[] Cups = ["cups 95", "cups 135"];

    private readonly Random random;

    public WeekOfWork(int seed)
    {
        random = new(seed);
        // What the shop has on record: twelve of each, drawn as the week's own work is.
        foreach (var kind in Enum.GetValues<PartKind>())
        {
            Known[(kind, WorkStep.Measure)] = Past(() => Takes(9, 0.3));
            Known[(kind, WorkStep.Machine)] = Past(Mounting);
            Known[(kind, WorkStep.Confirm)] = Past(() => Takes(6, 0.3));
            Passes[kind] = Past(() => Takes(kind == PartKind.Rotor ? 14 : 18, 0.35));
        }
        var id = 0;
        for (var day = 0; day < Days; day++)
            foreach (var minute in Enumerable.Range(0, 7).Select(_ => random.Next(Opens - 20, Closes - 120)).Order())
                Jobs.Add(Job(day * Day + minute, ref id));
        if (random.Next(2) == 0)
            Broken = (random.Next(Lathes), random.Next(Days) * Day + random.Next(Opens, Closes - 120));
    }

    public List<WeekJob> Jobs { get; } = [];
    public Dictionary<(PartKind, WorkStep), StepTime> Known { get; } = [];
    public Dictionary<PartKind, StepTime> Passes { get; } = [];

    /// <summary>A lathe that breaks, when, and for two hours; null where none does.</summary>
    public (int Lathe, int At)? Broken { get; }

    public const int BrokenFor = 120;

    /// <summary>The hours of work as minutes, a day more than is looked at, so that what is left over has a time.</summary>
    public static IReadOnlyList<(int From, int To)> Hours { get; } =
    [
        .. Enumerable
            .Range(0, Days + 3)
            .SelectMany(d => new[] { (d * Day + Opens, d * Day + PauseFrom), (d * Day + PauseTo, d * Day + Closes) }),
    ];

    /// <summary>A moment after so many minutes of work.</summary>
    private static int After(int from, int minutes)
    {
        foreach (var (begin, end) in Hours.Where(h => h.To > from))
        {
            var at = Math.Max(from, begin);
            if (at + minutes <= end)
                return at + minutes;
            minutes -= end - at;
        }
        return Hours[^1].To;
    }

    private WeekJob Job(int arrives, ref int id)
    {
        var job = Jobs.Count + 1;
        List<WeekPart> parts = [];
        for (var axle = random.Next(3) == 0 ? 2 : 1; axle > 0; axle--)
        {
            var kind = random.Next(5) < 3 ? PartKind.Rotor : PartKind.Drum;
            var held = kind == PartKind.Rotor ? Cones[random.Next(Cones.Length)] : Cups[random.Next(Cups.Length)];
            for (var side = 0; side < 2; side++)
                parts.Add(
                    new(
                        ++id,
                        job,
                        kind,
                        held,
                        Takes(9, 0.3),
                        Mounting(),
                        Takes(kind == PartKind.Rotor ? 14 : 18, 0.35),
                        Takes(6, 0.3),
                        random.Next(33) == 0
                    )
                );
        }
        return new(job, arrives, After(arrives, random.Next(150, 600)), parts);
    }

    /// <summary>Mounting, check and finishing; one in eight is taken off and put on again.</summary>
    private int Mounting() => Takes(18, 0.25) + (random.Next(8) == 0 ? Takes(9, 0.3) : 0);

    private int Takes(double median, double spread) => Math.Max(1, (int)Math.Round(median * Math.Exp(spread * Normal())));

    private double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    private static StepTime Past(Func<int> takes) =>
        StepTime.FromHistory([.. Enumerable.Range(0, StepTime.LooksBack).Select(_ => takes())]);
}
