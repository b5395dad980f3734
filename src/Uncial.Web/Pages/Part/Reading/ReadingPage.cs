using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>A page on which a size is read place by place, with the gauge that lies at hand: before the cut and after it.</summary>
public abstract class ReadingPage(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : PartPage(db, shop, reader, time)
{
    private const int MostTries = 4;
    private const int LongestReason = 200;
    private static readonly TimeSpan UndoFor = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan SentTwice = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan JustNow = TimeSpan.FromMinutes(2);
    private static readonly TimeSpan LongestWait = TimeSpan.FromDays(3);

    [BindProperty(SupportsGet = true, Name = "at")]
    public decimal? AtDegrees { get; set; }

    [BindProperty(SupportsGet = true, Name = "depth")]
    public decimal? AtDepth { get; set; }

    [BindProperty]
    public LengthInput? Entry { get; set; }

    [BindProperty]
    public string? Insisted { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    /// <summary>Number of the gauge that the page was made for.</summary>
    [BindProperty]
    public int? With { get; set; }

    /// <summary>Start of a bar, in millimetres.</summary>
    [BindProperty]
    public decimal? Start { get; set; }

    /// <summary>Newest reading at the place that the page knew of; 0 for none.</summary>
    [BindProperty]
    public long Seen { get; set; }

    /// <summary>Cuts that the surface had when the page was made.</summary>
    [BindProperty]
    public int? Cuts { get; set; }

    /// <summary>Name of the reading, given by the page, so that it goes in once.</summary>
    [BindProperty]
    public Guid? Key { get; set; }

    /// <summary>Session and number of the line with which a gauge sent it; null where it was typed.</summary>
    [BindProperty]
    public string? Line { get; set; }

    /// <summary>The owner of the gauge that showed it.</summary>
    [BindProperty]
    public long? Fence { get; set; }

    /// <summary>The gauge was taken over while its reading was on the way: it sends it again.</summary>
    public bool IsTakenOver { get; private set; }

    /// <summary>Which figure the gauge sent, where it is one of a whole face.</summary>
    [BindProperty]
    public ReadingKind? LineFor { get; set; }

    /// <summary>When it was typed, if it had to wait.</summary>
    [BindProperty]
    public DateTimeOffset? TypedAt { get; set; }

    /// <summary>What the gauge showed on its standard.</summary>
    [BindProperty]
    public LengthInput? Shown { get; set; }

    /// <summary>The place to be read now; null where all are read and none is picked.</summary>
    public ReadingPlace? Place { get; private set; }

    /// <summary>Readings that stand at this place.</summary>
    public IReadOnlyList<ReadingFact> Here { get; private set; } = [];

    /// <summary>A reading that decided was to be undone: its place is read again first.</summary>
    [BindProperty(SupportsGet = true, Name = "again")]
    public bool ReadAgainFirst { get; set; }

    /// <summary>The reading at this place that may be withdrawn next: the oldest that was read again, otherwise the newest.</summary>
    public ReadingFact? ToWithdraw =>
        Here.Where(r => Record.Measuring.WithdrawalOf(r) is { Decided: true, SecondReading: false }).Ordered().FirstOrDefault()
        ?? Here.Newest();

    /// <summary>What withdrawing it takes.</summary>
    public Core.Release.ReadingWithdrawal Takes => ToWithdraw is { } reading ? Record.Measuring.WithdrawalOf(reading) : default;

    /// <summary>The question that the operator may answer by pressing again.</summary>
    public string? Question { get; private set; }

    /// <summary>The gauge at hand; null where the shop has none for such a part.</summary>
    public Gauge? Gauge { get; private set; }

    public IReadOnlyList<Gauge> Gauges => Record.Shop.GaugesFor(Record.Kind);

    /// <summary>Numbers of the gauges that this page listens to: the one at hand, and those for run-out and depth.</summary>
    public string LiveGauges =>
        string.Join(
            ' ',
            new[] { Gauge, Record.Shop.GaugeFor(ReadingKind.RunoutOuter), Record.Shop.GaugeFor(ReadingKind.Groove) }
                .Where(g => g?.Address is not null)
                .Select(g => g!.Id)
                .Distinct()
        );

    /// <summary>Unit that a bare figure takes: that of the gauge, or the reader's where the gauge shows both.</summary>
    public LengthUnit EntryUnit => Gauge?.Unit ?? Reader.Unit;

    /// <summary>The start that the bar is to be set at; null without a bar, or where it does not fit the part.</summary>
    public Length? BarStart =>
        Gauge?.Bar is not { } bar || !Gauge.Kind.HasBar() ? null
        : Start is { } picked ? bar.Starts.Cast<Length?>().FirstOrDefault(s => s!.Value.Millimetres == picked) ?? bar.StartFor(Limits)
        : bar.StartFor(Limits);

    /// <summary>The zero of the gauge is to be looked at before the first reading.</summary>
    public bool ZeroDue =>
        Gauge is { } gauge
        && !gauge.Failed
        && gauge.ZeroIsDue(Record, Actor.At)
        && Request.Cookies[SkipCookie] != gauge.Id.ToString(CultureInfo.InvariantCulture);

    /// <summary>The reading that one key takes back: the newest of this hand, while it is fresh.</summary>
    public ReadingFact? Undoable =>
        Record.Measuring.Sizes is [.., var last] && last.ById == Reader.OperatorId && Actor.At - last.At < UndoFor ? last : null;

    /// <summary>A reading came in while this page may have stood open.</summary>
    public bool ReadJustNow(ReadingFact reading) => Actor.At - reading.At < JustNow;

    /// <summary>The gauge at hand is coarser than the one that read it before the cut: what the cut took is told less well.</summary>
    public bool GaugeIsCoarser =>
        Record.CutsDone > 0
        && Gauge is { } gauge
        && Record.Measuring.SizesBefore.Count > 0
        && gauge.Resolution > Record.Measuring.SizesBefore.Max(r => r.Resolution);

    /// <summary>The part stands open for readings at this page.</summary>
    public abstract bool IsOpen { get; }

    /// <summary>Number of places that are read.</summary>
    public int ReadCount => Record.Measuring.Places.Count(p => Record.Measuring.ReadingAt(p) is not null);

    public string PlaceName => Place is { } place ? NameOf(place) + Readings.EndOf(Record, place) : "";

    public string DepthName => Place is { } place ? Readings.DepthOf(Record, place, Reader) : "";

    /// <summary>The diameter is turned end for end against the axis that is asked for.</summary>
    public bool IsTurned => !IsRotor && Place is { Degrees: >= 180 };

    private const string SkipCookie = "unzeroed";

    /// <summary>Tells the page that its gauge sends the figure again.</summary>
    private const string TakenOverHeader = "X-Taken-Over";

    private string GaugeCookie => IsRotor ? "gauge-rotor" : "gauge-drum";

    private bool IsOutbox => Request.Headers.ContainsKey("X-Outbox");

    public string NameOf(ReadingPlace place) => Readings.NameOf(Record, place);

    public async Task<IActionResult> OnPostKeepAsync(CancellationToken cancel)
    {
        for (var tries = 1; ; tries++)
        {
            if (await LoadAsync(cancel) is { } elsewhere)
                return elsewhere;
            if (Key is { } key && Record.Surface.Readings.Any(r => r.Key == key))
                return Kept();
            PickPlace();
            LastVisit = await LastVisitAsync(cancel);
            if (MeasureCommands.RefusesSize(Record, Gauge, Cuts) is { } at)
            {
                Trouble = Words.Of(at);
                return await AnswerAsync(cancel);
            }
            if (Typed() is not { } typed || Place is not { } place || Asks(typed, place))
                return await AnswerAsync(cancel);
            var aside = new ReadingAside(
                Insisted is not null && Insisted == Entry?.Text,
                Note,
                IsOutbox ? Honest(TypedAt) : null,
                Key,
                Line is { Length: > 0 and <= 60 } ? Line : null,
                Fence
            );
            var result = await MeasureCommands.RecordSizeAsync(Action, place, typed, EntryUnit, Gauge, Cuts, aside, cancel);
            switch (result.Refusal)
            {
                case null:
                    return Kept();
                case Refusal.Overtaken when tries < MostTries:
                    // Somebody else added to the part in the same moment: read it again, that is no reason to ask.
                    continue;
                case Refusal.DoneAlready when Key is not null:
                    // It is stored already: sent again after an answer that was lost.
                    if (Line is { Length: > 0 } line && Gauge is { } sender)
                        HttpContext.RequestServices.GetRequiredService<News>().Took(sender.Id, line);
                    return Kept();
                // It waited in the browser, its gauge may long have given up: it goes in as what the gauge sent, once.
                case Refusal.AgainstRule { Rule: StoredRule.GaugeTakenOver } when IsOutbox && tries < MostTries:
                    Fence = await Db.FenceAsync(Gauge, cancel);
                    continue;
                case var refusal:
                    IsTakenOver = refusal is Refusal.AgainstRule { Rule: StoredRule.GaugeTakenOver };
                    if (await LoadAsync(cancel) is { } gone)
                        return gone;
                    Trouble = Words.Of(refusal);
                    return await AnswerAsync(cancel);
            }
        }
    }

    public async Task<IActionResult> OnPostWithdrawAsync(long reading, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        PickPlace();
        return ReadText(Reason, LongestReason, "measure.sayWhyItIsWithdrawn") is { } reason
            ? await AnswerAsync(
                await MeasureCommands.WithdrawAsync(Action, reading, reason, cancel),
                Request.Path + (Place is { } place ? Readings.Query(place) : ""),
                cancel
            )
            : await ShowAsync(cancel);
    }

    /// <summary>Takes the newest reading of this hand back, and asks for its place again.</summary>
    public async Task<IActionResult> OnPostUndoAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Undoable is not { } last)
        {
            Trouble = Words.Say("measure.thereIsNothingOfYours");
            return await ShowAsync(cancel);
        }
        var there = Request.Path + Readings.Query(new(last.Degrees ?? 0, last.Station));
        // One that decided is not undone with a key: its place comes up to be read again first.
        if (Record.Measuring.WithdrawalOf(last) is { Decided: true })
            return Redirect(there + "&again=true");
        var undone = await MeasureCommands.WithdrawAsync(Action.WhateverWasAdded(), last.Id, Words.Say("measure.takenBackAtOnce"), cancel);
        return await AnswerAsync(undone, there, cancel);
    }

    /// <summary>Another gauge is taken up; this screen remembers it.</summary>
    public async Task<IActionResult> OnPostGaugeAsync(int gauge, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Gauges.FirstOrDefault(g => g.Id == gauge) is { } picked)
        {
            Remember(GaugeCookie, gauge, TimeSpan.FromDays(365));
            if (picked.Address is not null)
                HttpContext.RequestServices.GetRequiredService<News>().TakeUp(gauge, Reader.ScreenId, Reader.Screen);
        }
        return Redirect(
            Request.Path
                + (AtDegrees is null ? "" : Readings.Query(new(AtDegrees.Value, AtDepth is { } d ? Length.FromMillimetres(d) : null)))
        );
    }

    /// <summary>The gauge was read on its standard: it corrects what follows, or fails and puts what it read lately suspect.</summary>
    public async Task<IActionResult> OnPostZeroAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        PickPlace();
        if (Gauge is not { HasStandard: true } gauge)
            return await ShowAsync(cancel);
        if (ReadLength(Shown, new(EntryUnit, Required: true)) is not { } typed)
            return await ShowAsync(cancel);
        if (WrongStandard(gauge, typed.Value) is { } question && Insisted != Shown?.Text)
        {
            Question = question;
            return await ShowAsync(cancel);
        }
        await GaugeCommands.CheckAsync(Db, gauge, typed, Actor, cancel);
        return Redirect(Request.Path);
    }

    /// <summary>The part is read without a look at the zero: nothing is corrected.</summary>
    public async Task<IActionResult> OnPostSkipZeroAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Gauge is { } gauge)
            Remember(SkipCookie, gauge.Id, TimeSpan.FromMinutes(Math.Max(5, Record.Shop.Rules.Gauges.ZeroCheckHoldsMinutes)));
        return Redirect(Request.Path);
    }

    protected override void Loaded()
    {
        var picked = With
            ?? (int.TryParse(Request.Cookies[GaugeCookie], NumberStyles.None, CultureInfo.InvariantCulture, out var id) ? id : 0);
        Gauge = Gauges.FirstOrDefault(g => g.Id == picked)
            ?? (
                (Record.Measuring.Sizes.Count > 0 ? Record.Measuring.Sizes : Record.Measuring.SizesBefore) is [.., var last]
                    ? Gauges.FirstOrDefault(g => g.Id == last.GaugeId)
                    : null
            )
            ?? Record.Shop.GaugeFor(Record.Kind);
    }

    protected void PickPlace()
    {
        Place = AtDegrees is { } degrees
            ? new(
                ClockAngle.FromDegrees(degrees).Degrees,
                AtDepth is { } depth ? Length.FromMillimetres(depth) : Record.Measuring.Places[0].Station
            )
            : Record.Measuring.NextPlace;
        Here = Place is { } place ? Record.Measuring.SizesAt(place) : [];
    }

    /// <summary>Those who may sign, where withdrawing what stands here takes a signature.</summary>
    protected async Task LoadLeadsAsync(CancellationToken cancel)
    {
        if (Takes.Signature)
            Leads = await Db.LeadsAsync(cancel);
    }

    private TypedLength? Typed()
    {
        if (Gauge?.Bar is not { } bar || BarStart is not { } start || IsBlank(Entry))
            return ReadLength(Entry, new(EntryUnit, Required: true));
        return ReadLength(new(nameof(Entry), bar.Write(start, Entry.Text)), new(bar.Unit, Required: true));
    }

    /// <summary>Worst size when the part left last; null where it was not here before. Looked up before a reading is kept.</summary>
    private Length? LastVisit { get; set; }

    private async Task<Length?> LastVisitAsync(CancellationToken cancel) =>
        Part.Visit == 1
            ? null
            : await (
                from c in Db.Confirmations
                join s in Db.Surfaces on c.SurfaceId equals s.Id
                join p in Db.Parts on s.PartId equals p.Id
                where p.Tag == Part.Tag && p.Visit == Part.Visit - 1 && s.Kind == Record.Kind && s.InHat == Record.Surface.InHat
                orderby c.Id descending
                select (Length?)c.Worst
            ).FirstOrDefaultAsync(cancel);

    /// <summary>Puts a question where the reading cannot well be, or where somebody else read the same place meanwhile.</summary>
    private bool Asks(TypedLength typed, ReadingPlace place)
    {
        if (Record.Measuring.SizesAt(place) is [.., var newest] && newest.Id > Seen)
        {
            Question =
                newest.ById == Reader.OperatorId
                    ? Words.Say("measure.youReadHereMeanwhileYours", Reader.With(newest.Value), Reader.With(typed.Value))
                    : Words.Say(
                        "measure.readHereMeanwhileYoursIs",
                        newest.ByName ?? Words.Say("measure.somebodyElse"),
                        Reader.With(newest.Value),
                        Reader.With(typed.Value)
                    );
            Insisted = Entry?.Text;
            return true;
        }
        // Insisting holds for the figure that was questioned, not for another typed over it.
        if (Insisted is not null && Insisted == Entry?.Text)
            return false;
        // A gauge that types like a keyboard may send one reading twice; one that sends lines of its own has numbers for that.
        if (
            Line is not { Length: > 0 }
            && !IsOutbox
            && Record.Measuring.Sizes is [.., var before]
            && before.ById == Reader.OperatorId
            && before.Typed == typed.Text
            && (Actor.At - before.At).Duration() < SentTwice
        )
            Question = Words.Say("measure.cameAMomentAgoFor", before.Typed, NameOf(new(before.Degrees ?? 0, before.Station)));
        else if (Record.Measuring.QuestionOf(typed.Value, place, LastVisit) is { } odd)
            Question =
                (
                    odd.Against is { } against
                        ? Words.Of(odd.Why, typed.Value, against, Reader.Unit)
                        : Words.Of(odd.Why, typed.Value, Limits, Reader.Unit)
                ) + Words.Say("measure.pressEnterAgainToKeep");
        else if (Gauge?.Bar is { } bar && BarStart is { } start && !bar.IsOnDial(start, typed.Value))
            Question = Words.Say("measure.theDialReachesFromIts", LengthText.Figure(bar.Reach, bar.Unit, 3), LengthText.Name(bar.Unit));
        if (Question is not null)
            Insisted = Entry?.Text;
        return Question is not null;
    }

    /// <summary>A time that can be: not in the future and not of last week. A screen’s clock may be wrong.</summary>
    private DateTimeOffset? Honest(DateTimeOffset? typedAt) =>
        typedAt is { } at && at <= Actor.At && at > Actor.At - LongestWait ? at.ToUniversalTime() : null;

    private string? WrongStandard(Gauge gauge, Length shown)
    {
        var check = new ZeroCheck(gauge.StandardSize!.Value, shown, gauge.ZeroTolerance!.Value);
        return check.IsOfAnotherStandard
            ? Words.Say("zero.anotherStandard", Reader.With(check.Correction.Abs()), Reader.With(check.Nominal))
            : null;
    }

    /// <summary>Keeps the figures of whole faces or the bore that were typed anew.</summary>
    protected async Task<IActionResult> KeepFiguresAsync(
        Func<IEnumerable<ReadingKind>> fields,
        IReadOnlyDictionary<ReadingKind, LengthInput?> figures,
        Func<ReadingKind, ReadingFact?> known,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(fields);
        ArgumentNullException.ThrowIfNull(figures);
        ArgumentNullException.ThrowIfNull(known);
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        List<FigureSeen> changed = [];
        List<ReadingFact> unsaid = [];
        foreach (var kind in fields())
        {
            if (figures.GetValueOrDefault(kind) is not { } input || IsBlank(input))
                continue;
            if (LookedFor.Is(kind) && LookedFor.IsNotLooked(input.Text))
            {
                if (known(kind) is { } said)
                    unsaid.Add(said);
                continue;
            }
            var none = LookedFor.Is(kind) && LookedFor.IsNone(input.Text);
            var typed = ReadLength(none ? input with { Text = "0" } : input, LengthRule.Depth);
            var sent = SentFor(kind);
            // What the field showed is what is on record, rounded for the reader; only what was typed anew is a fact.
            if (typed is null || ((none ? "0" : input.Text.Trim()) == TextOf(known(kind)) && sent is null))
                continue;
            // "None" is said by eye, also as a 0 that no gauge has sent.
            var measured = !LookedFor.Is(kind) || typed.Value > Length.Zero || sent is not null;
            changed.Add(new(kind, typed, measured ? Record.Shop.GaugeFor(kind) : null, sent, Fence: Fence));
        }
        if (!ModelState.IsValid)
            return await ShowAsync(cancel);
        var there = Request.Path + Request.QueryString.Value?.Replace("?handler=Figures", "", StringComparison.Ordinal);
        if (changed.Count + unsaid.Count == 0)
            return Redirect(there);
        var kept = await MeasureCommands.RecordFiguresAsync(Action, changed, unsaid, Reader.Unit, cancel);
        if (kept.Refusal is Refusal.AgainstRule { Rule: StoredRule.GaugeTakenOver })
            Response.Headers[TakenOverHeader] = "1";
        return await AnswerAsync(kept, there, cancel);
    }

    /// <summary>The line with which a gauge sent this figure, unless that line is stored already.</summary>
    private string? SentFor(ReadingKind kind) =>
        LineFor == kind && Line is { Length: > 0 and <= 60 } line && !Record.Surface.Readings.Exists(r => r.Line == line) ? line : null;

    /// <summary>A figure as it stands in its field.</summary>
    protected string? ShownOf(ReadingFact? entry) =>
        entry is { Value.Millimetres: 0 } && LookedFor.Is(entry.Kind) ? LookedFor.None : TextOf(entry);

    private string? TextOf(ReadingFact? entry) =>
        entry is null ? null
        : entry.Value == Length.Zero ? "0"
        : Reader.Reading(entry.Value);

    private void Remember(string cookie, int id, TimeSpan howLong) =>
        Response.Cookies.Append(
            cookie,
            id.ToString(CultureInfo.InvariantCulture),
            new()
            {
                MaxAge = howLong,
                IsEssential = true,
                SameSite = SameSiteMode.Lax,
                HttpOnly = true,
            }
        );

    private IActionResult Kept() => IsOutbox ? new JsonResult(new { state = "kept" }) : Redirect(Request.Path);

    private async Task<IActionResult> AnswerAsync(CancellationToken cancel)
    {
        if (IsOutbox)
            return new JsonResult(new { state = Question is null ? "wrong" : "asks", text = Trouble ?? Question ?? Wrong(nameof(Entry)) });
        return await ShowAsync(cancel);
    }
}
