using Uncial.Core.Parts;
using Uncial.Core.Scheduling;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>Days of one lathe that is set up for rotors, and one operator: few enough to be worked out by hand.</summary>
internal static class SmallDays
{
    public static readonly LatheSetUp Rotors = new(PartKind.Rotor, "cone 60");
    public static readonly LatheSetUp Drums = new(PartKind.Drum, "cups 90");

    /// <summary>A day; ten hours long where nothing else is said.</summary>
    public static DayToPlan Day(IReadOnlyList<DayJob> jobs, IReadOnlyList<SurfaceWork> works, int minutes = 600)
    {
        TimeWindow[] hours = [new(RandomDays.Nine, RandomDays.Nine.AddMinutes(minutes))];
        return new()
        {
            Now = RandomDays.Nine,
            Jobs = jobs,
            Works = works,
            Lathes = [new(1, hours, Rotors, 12, 3)],
            Operators = [new(1, hours)],
        };
    }

    /// <summary>A surface that is mounted in five minutes and then fed for a quarter of an hour, or another time.</summary>
    public static SurfaceWork Block(int id, int job, LatheSetUp setUp, StepTime? feeding = null) =>
        new()
        {
            Id = id,
            PartId = id,
            JobId = job,
            Machinings = [new(1, setUp, new(5, 5), feeding ?? new(15, 15))],
        };
}
