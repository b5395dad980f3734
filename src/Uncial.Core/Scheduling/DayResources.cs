using Uncial.Core.Parts;

namespace Uncial.Core.Scheduling;

/// <summary>From a moment, up to but without another.</summary>
/// <param name="From">The first moment.</param>
/// <param name="To">The first moment after it.</param>
public readonly record struct TimeWindow(DateTimeOffset From, DateTimeOffset To);

/// <summary>What a lathe is set up for.</summary>
/// <param name="Head">The head that is on: for rotors or for drums.</param>
/// <param name="Adapters">What holds the part: the way of mounting with its cone or cups, as one name.</param>
public readonly record struct LatheSetUp(PartKind Head, string Adapters);

/// <summary>A lathe on the days that are planned.</summary>
/// <param name="Id">Number of the lathe.</param>
/// <param name="Open">When it can be used: the hours of the shop without breaks and without the time that it is out of order.</param>
/// <param name="SetUp">What it is set up for now; null where that is not known: then the first part takes a change-over.</param>
/// <param name="HeadMinutes">Minutes to change the head, 0 or more.</param>
/// <param name="AdapterMinutes">Minutes to change adapters under the same head, 0 or more.</param>
/// <param name="OperatorId">Who worked at it last today: takes its next part where that is no later; null for nobody.</param>
public sealed record DayLathe(
    int Id,
    IReadOnlyList<TimeWindow> Open,
    LatheSetUp? SetUp,
    int HeadMinutes,
    int AdapterMinutes,
    int? OperatorId = null
);

/// <summary>Somebody who works on the days that are planned.</summary>
/// <param name="Id">Number of the operator.</param>
/// <param name="AtWork">When: the shift without breaks and absences.</param>
public sealed record DayOperator(int Id, IReadOnlyList<TimeWindow> AtWork);
