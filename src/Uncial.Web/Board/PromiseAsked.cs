using Uncial.Core.Parts;
using Uncial.Core.Scheduling;
using Uncial.Web.Text;

namespace Uncial.Web.Board;

/// <summary>A question at the counter with its answer.</summary>
/// <param name="Board">The board that it was answered from.</param>
/// <param name="Offer">The soonest that can be promised without harm.</param>
/// <param name="By">Whether it can be ready by a time; null where none was asked about.</param>
/// <param name="At">That time.</param>
public sealed record PromiseAsked(BoardNow Board, PromiseOffer Offer, PromiseCheck? By, DateTimeOffset? At)
{
    /// <summary>Number of the job that is not there yet; no other job has it.</summary>
    private const int NotYet = -1;

    /// <summary>Answers from the board as it stands.</summary>
    /// <param name="board">The board.</param>
    /// <param name="parts">What comes off which corner.</param>
    /// <param name="by">The time that is asked about; null for none.</param>
    public static PromiseAsked Of(BoardNow board, IReadOnlyList<(Corner Corner, PartKind Kind)> parts, DateTimeOffset? by)
    {
        ArgumentNullException.ThrowIfNull(board);
        ArgumentNullException.ThrowIfNull(parts);
        var day = board.Plan.Day.Plan;
        var works = ShopDay.Asked(board.At.Floor, NotYet, parts);
        var axles = parts
            .Select((p, i) => (Axle: p.Corner.Axle().ToString(), Id: works[i].Id))
            .GroupBy(x => x.Axle)
            .ToDictionary(g => g.Key, g => (IReadOnlyList<int>)[.. g.Select(x => x.Id)]);
        DayJob job = new(NotYet, by);
        return new(
            board,
            PromiseHelper.Earliest(day, job, works, board.Plan.Board),
            by is null ? null : PromiseHelper.By(day, job, works, axles.Count > 1 ? axles : null, board.Plan.Board),
            by
        );
    }

    /// <summary>What is said of a remedy.</summary>
    public static string Of(PromiseRemedy remedy) =>
        remedy switch
        {
            PromiseRemedy.Urgent => Words.Say("ask.urgent"),
            PromiseRemedy.Overtime overtime => Words.Say("ask.overtime", overtime.Minutes),
            PromiseRemedy.LeftOut left => Words.Say("ask.leftOut", Words.Say("axle." + left.Group).ToLowerInvariant()),
            _ => throw new ArgumentOutOfRangeException(nameof(remedy)),
        };

    /// <summary>What is said of a promise to another customer that would stand worse.</summary>
    public string Of(PromiseHarmed harmed)
    {
        ArgumentNullException.ThrowIfNull(harmed);
        var job = Board.At.Bench.Parts.First(p => p.Part.JobId == harmed.JobId).Part.Job!;
        return Words.Say("ask.harmed", job.Number, job.Vehicle, Words.Say("board.state." + harmed.After).ToLowerInvariant());
    }
}
