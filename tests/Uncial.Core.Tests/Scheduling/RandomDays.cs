using Uncial.Core.Parts;
using Uncial.Core.Scheduling;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>Days of a shop that are made up: jobs with pairs of rotors and drums, lathes with set-ups, operators with breaks.</summary>
internal static class RandomDays
{
    public static readonly DateTimeOffset Nine = new(2026, 12, 5, 9, 0, 0, TimeSpan.Zero);

    private static readonly string[] Adapters = ["cone 60", "cone 72", "cups 90"];

    /// <summary>A day with so many surfaces to machine.</summary>
    public static DayToPlan Of(int seed, int blocks)
    {
        var random = new Random(seed);
        var (lathes, operators) = (1 + random.Next(2), 1 + random.Next(3));
        List<SurfaceWork> works = [];
        List<DayJob> jobs = [];
        while (works.Count < blocks)
        {
            var job = jobs.Count + 1;
            jobs.Add(new(job, random.Next(4) == 0 ? null : Nine.AddMinutes(random.Next(-20, 40 + 45 * blocks)), random.Next(6) == 0));
            var (head, held) = ((PartKind)random.Next(2), Adapters[random.Next(3)]);
            for (var n = 1 + random.Next(2); n > 0 && works.Count < blocks; n--)
            {
                var id = works.Count + 1;
                Machining[] ways =
                [
                    .. Enumerable
                        .Range(1, lathes)
                        .Where(l => l == 1 || random.Next(3) > 0)
                        .Select(l => new Machining(l, new(head, held), Time(random, 6, 9), Time(random, 5, 20))),
                ];
                works.Add(
                    new()
                    {
                        Id = id,
                        PartId = id,
                        JobId = job,
                        Measure = random.Next(3) == 0 ? null : Time(random, 4, 6),
                        Machinings = ways,
                        Confirm = Time(random, 4, 5),
                    }
                );
            }
        }
        return new()
        {
            Now = Nine,
            Jobs = jobs,
            Works = works,
            Lathes =
            [
                .. Enumerable
                    .Range(1, lathes)
                    .Select(l => new DayLathe(l, Hours(), random.Next(3) == 0 ? null : new((PartKind)random.Next(2), Adapters[0]), 12, 3)),
            ],
            Operators = [.. Enumerable.Range(1, operators).Select(o => new DayOperator(o, Shift(o)))],
            MeasuresWhileFeeding = random.Next(4) > 0,
        };
    }

    private static StepTime Time(Random random, int least, int most)
    {
        var likely = least + random.Next(most - least + 1);
        StepTime time = new(likely, likely + random.Next(4));
        // Now and then one of them has a pace of his own.
        return random.Next(3) > 0
            ? time
            : time with
            {
                Own = new Dictionary<int, StepTime> { [1 + random.Next(3)] = new(likely + random.Next(-2, 5), likely + 5) },
            };
    }

    private static TimeWindow[] Hours() => [new(Nine.AddHours(-1), Nine.AddHours(3)), new(Nine.AddHours(4), Nine.AddHours(20))];

    private static TimeWindow[] Shift(int who) =>
        [new(Nine.AddHours(-1), Nine.AddMinutes(60 + 20 * who)), new(Nine.AddMinutes(75 + 20 * who), Nine.AddHours(20))];
}
