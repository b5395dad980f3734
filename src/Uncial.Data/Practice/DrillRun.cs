using System.ComponentModel.DataAnnotations;
using Uncial.Practice.Causes;
using Uncial.Practice.Drills;

namespace Uncial.Data.Practice;

/// <summary>A drill that somebody goes through. Its seed comes from the server's own chance and is told to nobody.</summary>
public class DrillRun
{
    public long Id { get; set; }
    public int LearnerId { get; set; }
    public DrillKind Kind { get; set; }
    public long Seed { get; set; }
    public DateTimeOffset StartedAt { get; set; }

    /// <summary>The answers so far, by number.</summary>
    public List<DrillAnswer> Answers { get; set; } = [];

    /// <summary>Every item is answered.</summary>
    public bool IsDone => Answers.Count >= DrillKinds.Items;

    /// <summary>The item that comes next, from 1 on; one past the last where all are answered.</summary>
    public int Next => Answers.Count + 1;

    public int Right => Answers.Count(a => a.IsRight);

    /// <summary>Score 0 … 100: right answers of all.</summary>
    public int Score => Right * 100 / DrillKinds.Items;

    /// <summary>One of its items.</summary>
    public DrillItem Item(int number) => DrillItems.Draw(Kind, Seed, number);
}

/// <summary>An answer, given once.</summary>
public class DrillAnswer
{
    public long RunId { get; set; }

    /// <summary>Which item, from 1 on.</summary>
    public int Number { get; set; }

    /// <summary>As typed, or the number of the choice from 1 on.</summary>
    [MaxLength(120)]
    public required string Text { get; set; }

    public bool IsRight { get; set; }
    public MistakeCause Cause { get; set; }

    /// <summary>How far it is off, mm; null for a choice.</summary>
    public decimal? OffMm { get; set; }

    public DateTimeOffset At { get; set; }
}
