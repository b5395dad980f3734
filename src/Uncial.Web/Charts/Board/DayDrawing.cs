using Microsoft.AspNetCore.Html;
using Uncial.Core.Scheduling;
using Uncial.Web.Board;
using Uncial.Web.Pages;
using Uncial.Web.Text;

namespace Uncial.Web.Charts;

/// <summary>
/// The lanes of a day over its hours, twelve marks to the hour. As wide as there is room: places along the hours are shares of the width.
/// </summary>
internal sealed class DayDrawing
{
    /// <summary>Heights in the drawing; the names beside it are as high (see Day.css).</summary>
    public const int Axis = 32,
        Lane = 61,
        Row = 22,
        FlagRow = 25;

    private const int Title = 17,
        Block = 40;

    /// <summary>An hour is at least so wide, so that a word fits where a block is long enough.</summary>
    private const double LeastHour = 100;

    private readonly BoardView view;
    private readonly Svg svg = new();
    private readonly int? chosen;

    private DayDrawing(BoardView view, int? chosen) => (this.view, this.chosen) = (view, chosen);

    /// <summary>Draws a day.</summary>
    /// <param name="view">The day.</param>
    /// <param name="chosen">The surface that is being moved; null for none.</param>
    public static IHtmlContent Draw(BoardView view, int? chosen) => new DayDrawing(view, chosen).Draw();

    /// <summary>Rows of the lane in which parts are measured and confirmed.</summary>
    public static int BenchRows(BoardView view) =>
        Math.Max(1, Rows(view.Bench, b => (b.From, b.To)).Select(r => r.Row + 1).DefaultIfEmpty().Max());

    /// <summary>Rows of the lane of promises.</summary>
    public static int FlagRows(BoardView view) => Math.Max(2, FlagPlaces(view).Select(r => r.Row + 1).DefaultIfEmpty().Max());

    private double Share(DateTimeOffset at) => Math.Clamp((at - view.Begin) / (view.End - view.Begin) * 100, 0, 100);

    private static string Pc(double share) => Svg.N(share) + "%";

    private IHtmlContent Draw()
    {
        var bench = Axis + Lane * view.Lanes.Count;
        var flags = bench + Row * BenchRows(view) + 6;
        var height = flags + FlagRow * FlagRows(view) + 4;
        svg.Add(
            $"<svg class='day-svg hours-{Math.Clamp(view.Hours, 6, 24)}' height='{height}' role='group' ",
            $"aria-label='{Words.Say("board.day")}' ",
            $"data-begin='{view.Begin.ToUnixTimeMilliseconds()}' data-end='{view.End.ToUnixTimeMilliseconds()}'>",
            $"<defs><pattern id='hatch' width='7' height='7' patternUnits='userSpaceOnUse' patternTransform='rotate(45)'>",
            $"<path d='M0 0V7' stroke='var(--blue)' stroke-width='1.6'/></pattern>",
            $"<pattern id='teeth' width='9' height='6' patternUnits='userSpaceOnUse'><path d='M0 6L4.5 0L9 6Z' fill='var(--sheet)' ",
            $"stroke='var(--ink-2)' stroke-width='1.2'/></pattern></defs>"
        );
        Grounds(height, flags);
        for (var i = 0; i < view.Lanes.Count; i++)
            OneLane(view.Lanes[i], Axis + Lane * i);
        foreach (var (block, row) in Rows(view.Bench, b => (b.From, b.To)))
            Small(block, bench + 3 + Row * row);
        foreach (var (flag, row) in FlagPlaces(view))
            Flag(flag, flags + 3 + FlagRow * row);
        Hours();
        if (view.Now >= view.Begin && view.Now <= view.End)
            svg.Add(
                $"<svg class='now' x='{Pc(Share(view.Now))}' y='0' width='1' height='{height}' overflow='visible'>",
                $"<path d='M0 20V{height}' stroke='var(--ink)' stroke-width='2'/>",
                $"<path d='M-29 2H29V22H8L0 31L-8 22H-29Z' fill='var(--ink)'/><text y='17' text-anchor='middle' font-size='14' ",
                $"font-weight='700' fill='var(--paper)'>{Words.Say("board.nowFlag")}</text></svg>"
            );
        return svg.Add($"</svg>").Html();
    }

    private void Grounds(int height, int flags)
    {
        foreach (var closed in view.Closed)
            Ground(closed, "closed", height);
        foreach (var pause in view.Breaks)
            Ground(pause, "break", height);
        foreach (var y in Enumerable.Range(1, view.Lanes.Count).Select(i => Axis + Lane * i).Append(flags))
            svg.Add($"<line x1='0' x2='100%' y1='{y}' y2='{y}' stroke='var(--line)' stroke-width='1.5'/>");
        for (var hour = view.Begin; hour < view.End; hour = hour.AddHours(1))
            svg.Add($"<line x1='{Pc(Share(hour))}' x2='{Pc(Share(hour))}' y1='{Axis}' y2='{height}' stroke='var(--line-2)'/>");
        foreach (var lane in view.Lanes.Select((l, i) => (l, i)).Where(x => x.l.Out is { IsOut: true }))
        {
            var (from, to) = (Share(lane.l.Out!.At), Share(lane.l.Out.BackAt ?? view.End));
            if (to > from)
                svg.Add(
                    $"<rect x='{Pc(from)}' width='{Pc(to - from)}' y='{Axis + Lane * lane.i + 1}' height='{Lane - 2}' class='out'/>",
                    $"<text x='{Pc(Math.Max(from, 0))}' dx='10' y='{Axis + Lane * lane.i + 54}' font-size='14' font-weight='650' ",
                    $"fill='var(--ink)'>{Words.Say("board.outOfOrder", lane.l.Out.Reason)}</text>"
                );
        }
    }

    private void Ground(TimeWindow window, string css, int height) =>
        svg.Add(
            $"<rect x='{Pc(Share(window.From))}' width='{Pc(Share(window.To) - Share(window.From))}' y='{Axis}' ",
            $"height='{height - Axis}' class='{css}'/>"
        );

    private void Hours()
    {
        svg.Add($"<rect width='100%' height='{Axis}' fill='var(--sheet)'/><line x1='0' x2='100%' y1='{Axis}' y2='{Axis}' class='base'/>");
        var minutes = (int)Math.Round((view.End - view.Begin).TotalMinutes);
        for (var minute = 0; minute < minutes; minute += 5)
        {
            var (x, at) = (Pc(Share(view.Begin.AddMinutes(minute))), view.Begin.AddMinutes(minute));
            var length =
                at.Minute == 0 ? 16
                : at.Minute == 30 ? 11
                : 6;
            svg.Add($"<line x1='{x}' x2='{x}' y1='{Axis - length}' y2='{Axis}' stroke='var(--ink)' stroke-width='1'/>");
            if (at.Minute == 0)
                svg.Add(
                    $"<text x='{x}' dx='5' y='18' class='fig' font-size='17' font-weight='650' fill='var(--ink)'>{Dates.Hour(at)}</text>"
                );
        }
    }

    private void OneLane(BoardLane lane, int top)
    {
        // Blocks of one job that follow one another stand under one line.
        foreach (var group in Together(lane.Blocks))
        {
            var (from, to) = (Share(group[0].From), Share(group[^1].To));
            svg.Add(
                $"<line x1='{Pc(from)}' x2='{Pc(to)}' y1='{top + Title + 1}' y2='{top + Title + 1}' class='over'/>",
                $"<foreignObject x='{Pc(from)}' width='{Pc(to - from)}' y='{top + 1}' height='{Title}'><div class='job'><b>",
                $"{group[0].Job.Number}</b> {group[0].Job.Vehicle}</div></foreignObject>"
            );
        }
        foreach (var block in lane.Blocks)
            Big(block, top + Title + 3);
    }

    private static IEnumerable<IReadOnlyList<BoardBlock>> Together(IReadOnlyList<BoardBlock> blocks)
    {
        List<BoardBlock> group = [];
        foreach (var block in blocks)
        {
            if (group.Count > 0 && (group[^1].Job.Id != block.Job.Id || block.ChangeOver > 0 || block.From > group[^1].To.AddMinutes(40)))
            {
                yield return group;
                group = [];
            }
            group.Add(block);
        }
        if (group.Count > 0)
            yield return group;
    }

    private void Big(BoardBlock block, int y)
    {
        var (from, to) = (Share(block.From), Share(block.To));
        if (block.ChangeOver > 0 && block.State is BlockState.Planned or BlockState.Waiting)
        {
            var begin = Share(block.From.AddMinutes(-block.ChangeOver));
            svg.Add(
                $"<svg x='{Pc(begin)}' width='{Pc(from - begin)}' y='{y}' height='{Block}' class='change'>",
                $"<rect y='5' width='100%' height='{Block - 10}' ",
                $"fill='var(--sheet)'/><rect width='100%' height='6' fill='url(#teeth)'/><g transform='translate(0 {Block}) scale(1 -1)'>",
                $"<rect width='100%' height='6' fill='url(#teeth)'/></g>",
                $"<title>{Words.Say(block.ChangesHead ? "board.aboutHead" : "board.aboutAdapters", block.ChangeOver)}</title>"
            );
            if ((from - begin) / 100 * LeastHour * view.Hours > 13)
                svg.Add(
                    $"<text class='turned' font-size='13' font-weight='650' fill='var(--ink)' ",
                    $"transform='translate(13 {Block - 6}) rotate(-90)'>",
                    $"{Words.Say(block.ChangesHead ? "board.head" : "board.cone")}</text>"
                );
            svg.Add($"</svg>");
        }
        var width = (to - from) / 100 * LeastHour * view.Hours;
        Open(block, block.LatheId is { } lathe ? view.NameOf(lathe) : null);
        svg.Add($"<rect x='{Pc(from)}' width='{Pc(to - from)}' y='{y - Title - 2}' height='{Lane - 2}' fill='transparent'/>");
        svg.Add(
            $"<svg x='{Pc(from)}' width='{Pc(to - from)}' y='{y}' height='{Block}'><rect x='1' y='1' height='{Block - 2}' class='ground'/>"
        );
        if (block.State is BlockState.Planned or BlockState.Running)
            svg.Add($"<rect x='1' y='{Block - 9}' width='100%' height='8' fill='url(#hatch)'/>");
        Says(block, width);
        if (block.State is BlockState.Running && view.Now > block.From && view.Now < block.To)
        {
            var gone = Pc((view.Now - block.From) / (block.To - block.From) * 100);
            svg.Add($"<rect width='{gone}' y='{Block - 9}' height='8' class='cut'/>");
        }
        svg.Add($"<rect x='1' y='1' height='{Block - 2}' class='edge'/>");
        if (block.IsPinned)
            svg.Add($"<svg x='100%' width='1' height='1' overflow='visible'><path d='M-16 4h11v11l-5.5 8l-5.5 -8Z' class='pin'/></svg>");
        svg.Add($"</svg></a>");
    }

    private void Says(BoardBlock block, double width)
    {
        if (width > 10 + block.Corner.Length * 11)
            svg.Add($"<text x='7' y='18' class='corner'>{block.Corner}</text>");
        if (width > 14 + block.Word.Length * 7.2)
            svg.Add($" <text x='7' y='31' class='says-word'>{block.Word}</text>");
    }

    private void Small(BoardBlock block, int y)
    {
        var (from, to) = (Share(block.From), Share(block.To));
        Open(block, null);
        svg.Add(
            $"<svg x='{Pc(from)}' width='{Pc(to - from)}' y='{y}' height='{Row - 3}'>",
            $"<rect x='.5' y='1' height='{Row - 5}' class='ground'/>",
            $"<rect x='.5' y='1' height='{Row - 5}' class='edge'/>"
        );
        var (width, word) = ((to - from) / 100 * LeastHour * view.Hours, (block.Step == WorkStep.Confirm ? "✓" : "") + block.Corner);
        // Turned where it is not long enough to be read across.
        if (width > 8 + 10 * word.Length)
            svg.Add($"<text x='50%' y='15' text-anchor='middle' class='corner small'>{word}</text>");
        else if (width > 13 && word.Length <= 2)
            svg.Add(
                $"<svg x='50%' width='1' height='{Row}' overflow='visible'><text transform='translate(5 {Row / 2}) rotate(-90)' ",
                $"text-anchor='middle' class='corner small'>{word}</text></svg>"
            );
        svg.Add($"</svg></a>");
    }

    private void Open(BoardBlock block, string? lathe)
    {
        var css = block.State.ToString().ToLowerInvariant();
        svg.Add(
            $"<a href='{RailView.Href(block.Record, block.Part.Surfaces.ToList().IndexOf(block.Record) + 1, block.Part.Station)}' ",
            $"class='block is-{css}{(block.SurfaceId == chosen ? " is-chosen" : "")}' tabindex='-1' data-block='{block.Key}' ",
            $"data-at='{block.From.ToUnixTimeSeconds() / 60} {block.LatheId}' data-about='{block.About(lathe)}' ",
            $"data-surface='{block.SurfaceId}' data-lathe='{block.LatheId}' data-place='{block.Place}' ",
            $"data-seen='{block.Pin?.Turn ?? 0}' data-pinned='{(block.IsPinned ? "yes" : "")}' data-job='{block.Job.Id}' ",
            $"data-urgent='{(view.Plan.Day.Plan.Jobs.First(j => j.Id == block.Job.Id).IsUrgent ? "yes" : "")}' ",
            $"aria-label='{block.Seen} {block.About(lathe)}'>"
        );
    }

    private void Flag(PromiseFlag flag, int y)
    {
        var css =
            flag.State == PromiseState.Late ? "is-late"
            : flag.Waits ? "is-held"
            : "";
        var text = TextOf(flag);
        var width = WidthOf(text);
        // At the end of the day a flag hangs to the left of its time.
        var turned = IsTurned(view, flag);
        var x = turned ? -width : 0;
        svg.Add(
            $"<a href='/receive/{flag.Job.Number}' class='flag {css}' tabindex='-1' aria-label='{text}, {flag.Job.Vehicle}'>",
            $"<svg x='{Pc(Share(flag.At))}' y='{y}' width='1' height='24' ",
            $"overflow='visible'><path d='M{x} 0H{x + width - 8}L{x + width} 11L{x + width - 8} 22H{x}Z' class='cloth'/>",
            $"<path d='M0 -3V24' stroke='var(--ink)' stroke-width='2'/>"
        );
        svg.Add(Marks.In(flag.Mark, x + 15, 11, 14));
        svg.Add($"<text x='{x + 27}' y='16' font-size='14' font-weight='650'>{text}</text></svg></a>");
    }

    private static string TextOf(PromiseFlag flag) =>
        flag is { State: PromiseState.Late, Late: > 0 }
            ? Words.Say("board.flagLate", flag.Job.Number, Dates.Clock(flag.At), BoardWords.Span(flag.Late))
            : Words.Say("board.flag", flag.Job.Number, Dates.Clock(flag.At), flag.Word.ToLowerInvariant());

    private static double WidthOf(string text) => 38 + text.Length * 7.3;

    private static IEnumerable<(PromiseFlag Flag, int Row)> FlagPlaces(BoardView view) =>
        Rows(view.Flags, f => IsTurned(view, f) ? (At(view, f) - Width(f), At(view, f)) : (At(view, f), At(view, f) + Width(f)));

    private static DateTimeOffset At(BoardView view, PromiseFlag flag) =>
        flag.At < view.Begin ? view.Begin
        : flag.At > view.End ? view.End
        : flag.At;

    private static TimeSpan Width(PromiseFlag flag) => TimeSpan.FromMinutes((WidthOf(TextOf(flag)) + 6) / (LeastHour / 60));

    private static bool IsTurned(BoardView view, PromiseFlag flag) => At(view, flag) + Width(flag) > view.End;

    /// <summary>What overlaps in time stands in rows below one another.</summary>
    private static IEnumerable<(T Item, int Row)> Rows<T>(IEnumerable<T> items, Func<T, (DateTimeOffset From, DateTimeOffset To)> when)
    {
        List<DateTimeOffset> until = [];
        foreach (var (item, (from, to)) in items.Select(i => (i, when(i))).OrderBy(x => x.Item2.Item1))
        {
            var row = until.FindIndex(u => u <= from);
            if (row < 0)
                row = until.Count;
            if (row == until.Count)
                until.Add(to);
            else
                until[row] = to;
            yield return (item, row);
        }
    }
}
