using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Looking;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Data;

/// <summary>Who states something, and when.</summary>
public readonly record struct Hand(int OperatorId, DateTimeOffset At);

/// <summary>What the operator saw after a pass.</summary>
/// <param name="DarkOuter">Dark twelfths of the outer face or bore, bit 0 at 12 o'clock.</param>
/// <param name="DarkInner">Dark twelfths of the inner face.</param>
/// <param name="GrooveOuter">Groove left, or null where nobody looked.</param>
/// <param name="GrooveInner">Groove left on the inner face, or null.</param>
/// <param name="Size">A size measured now, or null.</param>
/// <param name="SizeDegrees">Where it was measured.</param>
/// <param name="Noise">What was heard or seen of chatter, or null.</param>
public sealed record PassSeen(
    int DarkOuter,
    int DarkInner,
    Length? GrooveOuter,
    Length? GrooveInner,
    Length? Size,
    decimal? SizeDegrees,
    ChatterSign? Noise = null
);

/// <summary>What was seen when the set-up was checked.</summary>
/// <param name="Manner">How it was checked.</param>
/// <param name="Turned">Turn of the part on the arbor, clockwise, degrees.</param>
/// <param name="First">Mark in the first position.</param>
/// <param name="Second">Mark after the turn, or the opposite arc in a drum; null for one scratch.</param>
public sealed record SetUpSeen(SetUpManner Manner, decimal Turned, RunoutMark First, RunoutMark? Second)
{
    /// <summary>What it comes to, by the shop's rules and the lathe's dial.</summary>
    public SetUpCheck Check(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        var rules = record.Shop.Rules;
        return Manner switch
        {
            SetUpManner.OneScratch => SetUpCheck.OfFirstScratch(First, rules),
            SetUpManner.TwoArcs => SetUpCheck.OfOval(First.Arc!.Value, Second!.Arc!.Value),
            _ => SetUpCheck.Of(
                record.Kind,
                Turned,
                rules.SetUpTolerance,
                Manner == SetUpManner.Indicator
                    ? record.Shop.GaugeFor(ReadingKind.RunoutOuter)?.Resolution ?? Length.FromMillimetres(0.01m)
                    : record.Lathe.Profile.Dial(record.Kind, true).DepthPerDivision,
                First,
                Second!
            ),
        };
    }
}

/// <summary>What goes with a reading beside its figure.</summary>
/// <param name="Insisted">It was questioned, and the operator stood by it.</param>
/// <param name="Note">What the operator remarked.</param>
/// <param name="TypedAt">When it was typed, where it had to wait for the server.</param>
/// <param name="Key">Name that the page gave it, so that it goes in once.</param>
/// <param name="Line">Session and number of the line with which a gauge sent it.</param>
public sealed record ReadingAside(
    bool Insisted = false,
    string? Note = null,
    DateTimeOffset? TypedAt = null,
    Guid? Key = null,
    string? Line = null
);

/// <summary>What goes with the end of a journey beside its reason.</summary>
/// <param name="Cause">Why it is scrap.</param>
/// <param name="Place">Where a shelved part lies.</param>
/// <param name="Preservative">What keeps rust off it.</param>
/// <param name="SignatureId">The lead's signature for a release between the limits.</param>
/// <param name="SignedById">Who signed; the database sets it from the signature.</param>
public sealed record OutcomeAside(
    ScrapCause? Cause = null,
    string? Place = null,
    string? Preservative = null,
    long? SignatureId = null,
    int? SignedById = null
);

/// <summary>
/// The steps of a part's journey: each adds its facts, in one place, for the pages and the demo data alike. Nothing is saved here.
/// </summary>
public static partial class Journey
{
    private const int AllSectors = Coverage.Sectors;

    /// <summary>States a limit. One that makes the limit that holds laxer takes a lead's signature; the database asks for it.</summary>
    public static LimitEntry Limit(
        WorkSurface surface,
        LimitKind kind,
        TypedLength typed,
        LengthUnit unit,
        LimitSource source,
        Hand hand,
        int? book = null,
        long? signature = null
    )
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(typed);
        surface.Turn++;
        var entry = new LimitEntry
        {
            Kind = kind,
            Value = typed.Value,
            Typed = typed.Text,
            Unit = unit,
            Source = source,
            BookEntryId = book,
            SignatureId = signature,
            At = hand.At,
            ById = hand.OperatorId,
        };
        surface.LimitEntries.Add(entry);
        return entry;
    }

    /// <summary>Keeps what was found by eye; the depth of a groove enters the figures as a reading as well.</summary>
    public static Finding Find(
        SurfaceRecord record,
        FindingKind kind,
        Side side,
        int sectors,
        TypedLength? depth,
        LengthUnit unit,
        string? note,
        int? photo,
        Hand hand
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        record.Surface.Turn++;
        var finding = new Finding
        {
            Kind = kind,
            Side = side,
            Sectors = sectors & (1 << AllSectors) - 1,
            Depth = depth?.Value,
            Note = Trimmed(note),
            PhotoId = photo,
            At = hand.At,
            ById = hand.OperatorId,
        };
        record.Surface.Findings.Add(finding);
        if (kind == FindingKind.Groove && depth is not null)
        {
            var rotor = record.Kind == PartKind.Rotor;
            ReadingKind[] figures = !rotor
                ? [ReadingKind.Groove]
                : side switch
                {
                    Side.Outer => [ReadingKind.GrooveOuter],
                    Side.Inner => [ReadingKind.GrooveInner],
                    _ => [ReadingKind.GrooveOuter, ReadingKind.GrooveInner],
                };
            // A second, shallower groove does not hide the first.
            foreach (var figure in figures.Where(f => record.Measuring.Figure(f) is not { } known || known.Value < depth.Value))
                Read(record, figure, null, depth, unit, record.Shop.GaugeFor(figure), hand);
        }
        return finding;
    }

    /// <summary>A finding turned out to be none.</summary>
    public static void Withdraw(SurfaceRecord record, FindingFact finding, string reason, Hand hand, long? signature = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(finding);
        record.Surface.Turn++;
        finding.Row<Finding>().Withdrawal = new()
        {
            Reason = reason,
            SignatureId = signature,
            At = hand.At,
            ById = hand.OperatorId,
        };
    }

    /// <summary>A lead hand says which source of a limit holds.</summary>
    public static void Settle(WorkSurface surface, LimitEntry entry, string reason, Hand hand, long? signature)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(entry);
        surface.Turn++;
        surface.Settlements.Add(
            new()
            {
                Kind = entry.Kind,
                EntryId = entry.Id,
                Reason = reason,
                SignatureId = signature,
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
    }

    /// <summary>What the limit book says of a surface goes in as statements of the book.</summary>
    public static void TakeFromBook(WorkSurface surface, BookEntry entry, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(entry);
        foreach (
            var (kind, value) in new[]
            {
                (LimitKind.Nominal, entry.Nominal),
                (LimitKind.MachineTo, entry.MachineTo),
                (LimitKind.Discard, entry.Discard),
            }
        )
            if (value is { } length)
                Limit(
                    surface,
                    kind,
                    new(LengthText.Limit(length, entry.Unit, surface.Kind == PartKind.Rotor), entry.Unit, length, ""),
                    entry.Unit,
                    LimitSource.LimitBook,
                    hand,
                    entry.Id
                );
        (surface.MaxRunout, surface.MaxVariation) = (
            entry.MaxRunout,
            surface.Kind == PartKind.Rotor ? entry.MaxVariation : entry.MaxOutOfRound
        );
    }

    /// <summary>
    /// Keeps a reading: corrected by the gauge's zero check, with the uncertainty that gauge and repeats give it. The database flags it
    /// where the gauge has failed since.
    /// </summary>
    public static ReadingEntry Read(
        SurfaceRecord record,
        ReadingKind kind,
        ReadingPlace? place,
        TypedLength typed,
        LengthUnit unit,
        Gauge? gauge,
        Hand hand,
        ReadingAside? aside = null
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(typed);
        var rules = record.Shop.Rules;
        var (takenAt, isSize) = (aside?.TypedAt ?? hand.At, kind == ReadingKind.Size);
        var check = isSize ? gauge?.Correction(record, takenAt) : null;
        var value = typed.Value + (check?.Correction ?? Length.Zero);
        var repeats = isSize && place is { } p ? record.Measuring.SizesAt(p).Count(r => r.GaugeId == gauge?.Id) + 1 : 1;
        var entry = new ReadingEntry
        {
            Kind = kind,
            Degrees = place?.Degrees,
            Station = place?.Station,
            Value = value,
            Typed = typed.Text,
            Unit = unit,
            Insisted = aside?.Insisted ?? false,
            GaugeId = gauge?.Id,
            ZeroCheckId = check?.Id,
            Correction = check?.Correction ?? Length.Zero,
            Note = Trimmed(aside?.Note),
            TypedAt = aside?.TypedAt,
            Key = aside?.Key,
            Line = aside?.Line,
            Resolution = gauge?.Resolution ?? Length.Zero,
            Uncertainty = gauge?.UncertaintyAt(value, repeats, check is not null, rules) ?? Length.Zero,
            Cuts = record.CutsDone,
            At = hand.At,
            ById = hand.OperatorId,
        };
        record.Surface.Turn++;
        record.Surface.Readings.Add(entry);
        return entry;
    }

    /// <summary>
    /// Reads a gauge on its standard. Where it fails, its readings since the last good check are flagged, wherever they were used.
    /// </summary>
    /// <param name="gauge">The gauge, with its checks.</param>
    /// <param name="typed">What it showed on its standard.</param>
    /// <param name="since">Its readings since the last good check.</param>
    /// <param name="hand">Who checks.</param>
    public static ZeroCheckEntry CheckZero(Gauge gauge, TypedLength typed, IEnumerable<ReadingEntry> since, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(gauge);
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(since);
        var check = new ZeroCheck(gauge.StandardSize!.Value, typed.Value, gauge.ZeroTolerance!.Value);
        var entry = new ZeroCheckEntry
        {
            Nominal = check.Nominal,
            Shown = check.Shown,
            Typed = typed.Text,
            Tolerance = check.Tolerance,
            Passed = check.Passes,
            At = hand.At,
            ById = hand.OperatorId,
        };
        gauge.ZeroChecks.Add(entry);
        if (check.Passes)
            return entry;
        foreach (var reading in since.Where(r => r.Flag is null))
            reading.Flag = new()
            {
                ZeroCheck = entry,
                At = hand.At,
                ById = hand.OperatorId,
            };
        return entry;
    }

    public static void Withdraw(SurfaceRecord record, ReadingFact reading, string reason, Hand hand, long? signature = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(reading);
        record.Surface.Turn++;
        reading.Row<ReadingEntry>().Withdrawal = new()
        {
            Reason = reason,
            SignatureId = signature,
            At = hand.At,
            ById = hand.OperatorId,
        };
    }

    /// <summary>Puts the part on a lathe.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="mounting">The stack that was picked.</param>
    /// <param name="damped">Band, silencers or belt are on.</param>
    /// <param name="found">It was mounted before and put on again: what was found.</param>
    /// <param name="hand">Who mounts.</param>
    public static MountEntry Mount(SurfaceRecord record, ShopLathe lathe, Mounting mounting, bool damped, RemountCause? found, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(mounting);
        record.Surface.Turn++;
        var mount = new MountEntry
        {
            LatheId = lathe.Id,
            Cuts = record.CutsDone,
            Way = mounting.Way,
            Centring = mounting.Centring,
            Document = StoredJson.Write(mounting),
            Damped = damped,
            Found = found,
            At = hand.At,
            ById = hand.OperatorId,
        };
        record.Surface.Mounts.Add(mount);
        return mount;
    }

    /// <summary>Keeps a check of the set-up; the last one counts.</summary>
    public static SetUpEntry CheckSetUp(SurfaceRecord record, SetUpSeen seen, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(seen);
        var mount = record.Mounting.Mount ?? throw new InvalidOperationException("The part is not on a lathe.");
        var check = seen.Check(record);
        record.Surface.Turn++;
        var entry = new SetUpEntry
        {
            MountId = mount.Id,
            Mount = mount.Row<MountEntry>(),
            Manner = seen.Manner,
            Turned = seen.Second is null || seen.Manner == SetUpManner.TwoArcs ? 0 : seen.Turned,
            FirstDegrees = seen.First.At.Degrees,
            FirstArc = seen.First.Arc,
            FirstLength = seen.First.Depth ?? seen.First.Runout,
            SecondDegrees = seen.Second?.At.Degrees,
            SecondArc = seen.Second?.Arc,
            SecondLength = seen.Second?.Depth ?? seen.Second?.Runout,
            Tolerance = record.Shop.Rules.SetUpTolerance,
            Verdict = check.Verdict,
            SetUpRunout = check.SetUpRunout,
            PartRunout = check.PartRunout,
            RunoutNow = check.RunoutNow,
            CostNow = check.CostNow,
            LeftOnVehicle = check.LeftOnVehicle,
            SetUpShare = check.SetUpShare,
            At = hand.At,
            ById = hand.OperatorId,
        };
        record.Surface.SetUps.Add(entry);
        return entry;
    }

    /// <summary>
    /// The part may be cut as it is mounted. Run-out that the check found enters the needs, unless it was read on the lathe since the
    /// part was mounted.
    /// </summary>
    /// <exception cref="ArgumentException">Against the check, or without one, it takes a reason.</exception>
    public static void GoOn(SurfaceRecord record, string? reason, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        var mount = record.Mounting.Mount ?? throw new InvalidOperationException("The part is not on a lathe.");
        var check = record.Mounting.SetUp;
        if (check is not { Verdict: SetUpVerdict.True } && Trimmed(reason) is null)
            throw new ArgumentException("Going on against the check takes a reason.", nameof(reason));
        record.Surface.SetUpDecisions.Add(
            new()
            {
                MountId = mount.Id,
                CheckId = check?.Id,
                Reason = check is { Verdict: SetUpVerdict.True } ? null : Trimmed(reason),
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
        record.Surface.Turn++;
        if (check?.RunoutNow is not { } runout)
            return;
        var (kind, value) = record.Kind == PartKind.Rotor ? (ReadingKind.RunoutOuter, runout) : (ReadingKind.Eccentricity, runout / 2);
        if (record.Measuring.Figure(kind) is { } known && known.IsAfter(mount))
            return;
        Read(
            record,
            kind,
            null,
            new(LengthText.Figure(value, LengthUnit.Millimetre, 3, Toward.Nearest), LengthUnit.Millimetre, value, ""),
            LengthUnit.Millimetre,
            null,
            hand,
            new(Note: "from the set-up check")
        );
    }

    /// <summary>Something done to an insert.</summary>
    public static InsertEvent Insert(ShopLathe lathe, InsertNow now, InsertEventKind kind, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(now);
        var edge = kind switch
        {
            InsertEventKind.Replaced => 1,
            InsertEventKind.Turned => (now.Edge ?? 1) % lathe.Profile.EdgesPerInsert + 1,
            _ => now.Edge ?? 1,
        };
        return new()
        {
            LatheId = lathe.Id,
            Holder = now.Holder,
            Kind = kind,
            Edge = edge,
            At = hand.At,
            ById = hand.OperatorId,
        };
    }

    public static void TakePlan(
        SurfaceRecord record,
        PlanRequest request,
        PlanOption option,
        IReadOnlyList<Note> why,
        Hand hand,
        AfterPass? after = null,
        long? signature = null,
        bool newZero = false
    )
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(option);
        record.Surface.Turn++;
        record.Surface.Plans.Add(
            new()
            {
                LatheId = record.Lathe.Id,
                Version = record.Surface.Plans.Select(p => p.Version).DefaultIfEmpty().Max() + 1,
                SignatureId = signature,
                Technique = option.Key,
                At = hand.At,
                ById = hand.OperatorId,
                Document = StoredJson.Write(
                    new PlanDocument(request, option, why)
                    {
                        Seen = newZero ? [] : after?.Steps ?? [],
                        Continues = after is not null && !newZero,
                    }
                ),
            }
        );
    }

    /// <summary>Leaves the surface uncut, scuffed or as it is: it goes on to be confirmed by the readings it has.</summary>
    public static void LeaveUncut(SurfaceRecord record, PlanRequest request, bool scuffed, Hand hand) =>
        TakePlan(record, request, Empty(scuffed ? PlanState.Scuff : PlanState.NoCut), [], hand);

    /// <summary>Records the pass that is due, reads the metal, and plans anew where that changes the plan.</summary>
    public static AfterPass RecordPass(SurfaceRecord record, PassSeen seen, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(seen);
        var plan = record.Planning.Document ?? throw new InvalidOperationException("No plan was taken.");
        var index = record.Planning.Passes.Count;
        var passes = plan.Option.Passes;
        if (index >= passes.Count)
            throw new InvalidOperationException("All passes of the plan are done.");

        var sides = CutState.Sides(record.Kind, seen.DarkOuter, seen.DarkInner, seen.GrooveOuter, seen.GrooveInner);
        var size = seen.Size is { } s
            ? new SizeSeen(s, seen.SizeDegrees is { } at && CutState.IsBright(record.Kind, seen.DarkOuter, seen.DarkInner, at))
            : (SizeSeen?)null;
        var after = AfterPass.Read(plan.Request, [.. passes.Take(index + 1)], [.. passes.Skip(index + 1)], sides, size, record.Shop.Rules);
        var doubt = record.Planning.Doubt;
        record.Surface.Turn++;
        record.Surface.Passes.Add(
            new()
            {
                Plan = record.Planning.Latest!.Row<PlanEntry>(),
                PlanId = record.Planning.Latest!.Id,
                Index = index,
                Cut = record.CutsDone + 1,
                DarkOuter = seen.DarkOuter,
                DarkInner = seen.DarkInner,
                GrooveOuter = seen.GrooveOuter,
                GrooveInner = seen.GrooveInner,
                Size = seen.Size,
                Next = after.Next,
                DialBorneOut = after.BearsDialOut,
                Notes = StoredJson.Write(after.Notes),
                LatheId = record.Lathe.Id,
                Metres = MetresOf(record, passes[index].Kind),
                Grams = Lathe.IronOf(record.Kind, passes[index].Depth, record.Surface.Diameter, record.Surface.Band),
                Noise = seen.Noise,
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
        // What the plan rested on changed while this pass was cut: what follows is made from what is known now.
        if (doubt is not null and not PlanDoubt.Dial && after.Next != NextStep.Stop && record.Planning.CanPlanAnew)
        {
            var request = new SurfaceRecord(record.Surface, record.Part, record.Shop).Planning.Request(after.Request.Dial.Confirmed);
            after = after with
            {
                Next = request.Sides.All(s => s.Need == Length.Zero) ? NextStep.Finished : NextStep.PlanAnew,
                Request = request,
                Notes = [.. after.Notes, DoubtNote(doubt.Value)],
            };
        }
        if (after.Next == NextStep.PlanAnew)
            PlanAnew(record, after, plan.Option.Key, hand);
        else if (after.Next == NextStep.Stop || (after.Next == NextStep.Finished && index + 1 < passes.Count))
            TakePlan(record, after.Request, Empty(PlanState.Finished), after.Notes, hand, after);
        return after;
    }

    /// <summary>Judges the surface and keeps the judgement as a fact.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="readingsAreFit">Off the lathe, clean, at room temperature.</param>
    /// <param name="hand">Who confirms.</param>
    /// <param name="reason">Why it goes on although its shape, its fellow or the dial speaks against it.</param>
    public static Judgement Confirm(SurfaceRecord record, bool readingsAreFit, Hand hand, string? reason = null)
    {
        ArgumentNullException.ThrowIfNull(record);
        var judgement = record.Confirming.Judge(readingsAreFit);
        if (judgement.Worst is not { } worst)
            return judgement;
        record.Surface.Turn++;
        record.Surface.Confirmations.Add(
            new()
            {
                Cuts = record.CutsDone,
                Kind = record.Kind,
                Worst = worst,
                Discard = record.Receiving.Limits!.Discard,
                MachineTo = record.Receiving.Limits.MachineTo,
                Uncertainty = record.Measuring.Uncertainty,
                Allowance = judgement.Allowance,
                GrooveLeft = record.Confirming.DepthsLeft.Groove,
                ReliefLeft = record.Confirming.DepthsLeft.Relief,
                DepthUncertainty = record.Cutting.TurnedBright ? Length.Zero : record.Confirming.DepthsLeft.Uncertainty,
                Decision = judgement.Decision,
                DialTook = record.Confirming.MeasuredCut?.ByDial,
                MetalGone = record.Confirming.MeasuredCut?.BySize,
                Slope = record.Confirming.MeasuredCut is null ? null : record.Confirming.SlopeNow,
                DialBorneOut = record.Confirming.DialBorneOut,
                LatheId = record.Lathe.Id,
                Variation = record.Measuring.Spread,
                Taper = record.Measuring.Taper,
                Reason = Trimmed(reason),
                At = hand.At,
                ById = hand.OperatorId,
            }
        );
        return judgement;
    }

    /// <summary>Ends the part's journey. The database refuses what must not leave.</summary>
    public static Outcome Close(Part part, OutcomeKind kind, string? reason, bool betweenLimits, Hand hand, OutcomeAside? aside = null)
    {
        ArgumentNullException.ThrowIfNull(part);
        var outcome = new Outcome
        {
            Kind = kind,
            Reason = Trimmed(reason),
            DoNotMachineAgain = betweenLimits,
            Cause = kind == OutcomeKind.Scrapped ? aside?.Cause ?? ScrapCause.Other : null,
            Place = kind == OutcomeKind.Shelved ? Trimmed(aside?.Place) : null,
            Preservative = kind == OutcomeKind.Shelved ? Trimmed(aside?.Preservative) : null,
            SignatureId = aside?.SignatureId,
            SignedById = aside?.SignedById,
            At = hand.At,
            ById = hand.OperatorId,
        };
        part.Outcomes.Add(outcome);
        return outcome;
    }

    /// <summary>Calls a part back: how it left holds no more.</summary>
    /// <param name="outcome">How it left.</param>
    /// <param name="reason">Why.</param>
    /// <param name="hadLeft">It had left the shop: it is read anew.</param>
    /// <param name="signature">The lead's signature.</param>
    /// <param name="hand">Who calls it back.</param>
    public static void CallBack(Outcome outcome, string reason, bool hadLeft, long? signature, Hand hand)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        outcome.Withdrawal = new()
        {
            Reason = reason.Trim(),
            HadLeft = hadLeft,
            SignatureId = signature,
            At = hand.At,
            ById = hand.OperatorId,
        };
    }

    private static Note DoubtNote(PlanDoubt doubt) => new("planOutlived", Subject: doubt.ToString());

    private static void PlanAnew(SurfaceRecord record, AfterPass after, string technique, Hand hand, bool newZero = false)
    {
        if (after.Request.Sides.All(s => s.Need == Length.Zero))
        {
            TakePlan(record, after.Request, Empty(PlanState.Finished), after.Notes, hand, after);
            return;
        }
        var anew = PassPlanner.Plan(after.Request with { DefaultTechnique = technique });
        var option = anew.Options.FirstOrDefault(o => o.Key == technique && o.CanStart)
            // After a first pass that was made to tell how far a face runs out, what is left goes with the least metal.
            ?? (technique == ProbePass.Key ? anew.Options.Where(o => o.CanStart).MinBy(o => o.Metal) : null)
            ?? anew.Options.FirstOrDefault(o => o.Key == anew.Recommended);
        Note says = option is null
            ? new("noWayOn", anew.Shortfall?.Needed, anew.Shortfall?.Available)
            : new(
                "willBeLeft",
                Limits.Margin(
                    record.Kind,
                    option.Passes.Count > 0 ? option.Passes[^1].SizeAfter : after.Request.Touch,
                    after.Request.MachineTo
                )
            );
        TakePlan(record, after.Request, option ?? Empty(PlanState.Finished), [.. after.Notes, says], hand, after, newZero: newZero);
    }

    /// <summary>Metres that each tip goes through the metal in one pass.</summary>
    private static decimal MetresOf(SurfaceRecord record, PassKind kind)
    {
        var (across, band) = (record.Surface.Diameter, record.Surface.Band);
        if (across <= Length.Zero || band <= Length.Zero)
            return 0;
        var mean = record.Kind == PartKind.Rotor ? Length.Max(band, across - band) : across;
        return Math.Round(
            (decimal)CuttingData.LengthOfCut(mean, band, record.Lathe.Profile.Run(kind, record.Kind, across, band).PerTurn),
            1
        );
    }

    private static string? Trimmed(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    private static PlanOption Empty(string key) => new(key, null, PlanStart.Free, Length.Zero, Length.Zero, [], []);
}
