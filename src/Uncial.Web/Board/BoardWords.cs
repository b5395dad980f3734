using Uncial.Core.Scheduling;
using Uncial.Web.Text;

namespace Uncial.Web.Board;

/// <summary>What the board says in sentences.</summary>
internal static class BoardWords
{
    /// <summary>Jobs that are named in a price.</summary>
    private const int NamesJobs = 3;

    /// <summary>What a move costs, a sentence for each figure that changes.</summary>
    public static IEnumerable<string> PriceOf(BoardPrice price, BoardView board)
    {
        if (!price.IsKept)
            yield return Words.Say("board.priceNotKept");
        if (price.LateMinutes != 0)
            yield return Words.Say(price.LateMinutes > 0 ? "board.priceLater" : "board.priceSooner", Span(price.LateMinutes));
        if (price.IdleMinutes != 0)
            yield return Words.Say(price.IdleMinutes > 0 ? "board.priceIdle" : "board.priceIdleLess", Span(price.IdleMinutes));
        foreach (var job in price.Jobs.Take(NamesJobs))
            yield return Words.Say(
                job.After is { } after && after != job.Before ? "board.priceJobState" : "board.priceJob",
                board.JobOf(job.JobId)?.Number,
                Words.Say(job.Minutes > 0 ? "board.minLater" : "board.minSooner", Span(job.Minutes)),
                job.After is { } state ? Words.Say("board.state." + state) : ""
            );
        if (price is { IsKept: true, LateMinutes: 0, IdleMinutes: 0, FinishMinutes: 0, Jobs.Count: 0 })
            yield return Words.Say("board.priceNothing");
        else if (price.FinishMinutes != 0)
            yield return Words.Say(price.FinishMinutes > 0 ? "board.priceFinish" : "board.priceFinishLess", Span(price.FinishMinutes));
    }

    /// <summary>A span of time however it is signed: in minutes, in hours from a hundred minutes on.</summary>
    public static string Span(int minutes) =>
        Math.Abs(minutes) < 100
            ? Words.Say("board.minutes", Math.Abs(minutes))
            : Words.Say("board.hours", Math.Round(Math.Abs(minutes) / 60m, 1));

    /// <summary>A step of the chain that a late job hangs on.</summary>
    public static string Of(CriticalStep link, BoardView board)
    {
        var (part, record) = board.Of(link.Step.WorkId);
        return Words.Say(
            link.Step.LatheId is null ? "board.chainStep" : "board.chainLathe",
            Words.Say("board.step." + link.Step.Step),
            Words.Of(part.Part, record.Surface).ToLowerInvariant(),
            part.Part.Job!.Number,
            Dates.Clock(link.Step.To),
            link.Step.LatheId is { } lathe ? board.NameOf(lathe) : ""
        );
    }
}
