using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>What was seen when the set-up was checked.</summary>
/// <param name="Manner">How it was checked.</param>
/// <param name="Turned">Turn of the part on the arbor, clockwise, degrees.</param>
/// <param name="First">Mark in the first position.</param>
/// <param name="Second">Mark after the turn, or the opposite arc in a drum; null for one scratch.</param>
public sealed record SetUpSeen(SetUpManner Manner, decimal Turned, RunoutMark First, RunoutMark? Second)
{
    /// <summary>Two scratches, half a turn between them, whose arcs lay side by side.</summary>
    /// <param name="depth">How deep they were made; null where that is not known.</param>
    public static SetUpSeen SideBySide(Length? depth) => new(SetUpManner.SideBySide, 180, RunoutMark.Unread(depth), null);

    /// <summary>What it comes to, by the shop's rules and the lathe's dial.</summary>
    public SetUpCheck Check(SurfaceRecord record)
    {
        ArgumentNullException.ThrowIfNull(record);
        var rules = record.Shop.Rules;
        return Manner switch
        {
            SetUpManner.SideBySide => SetUpCheck.OfSideBySide(First.Depth),
            SetUpManner.OneScratch => SetUpCheck.OfFirstScratch(First, rules),
            SetUpManner.TwoArcs => SetUpCheck.OfOval(First.Arc!.Value, Second!.Arc!.Value),
            _ => SetUpCheck.Of(
                record.Kind,
                Turned,
                rules.SetUp.SetUpTolerance,
                Manner == SetUpManner.Indicator
                    ? record.Shop.GaugeFor(ReadingKind.RunoutOuter)?.Resolution ?? Length.FromMillimetres(0.01m)
                    : record.Lathe.Profile.Dial(record.Kind, true).DepthPerDivision,
                First,
                Second!
            ),
        };
    }
}

/// <summary>A part is put on a lathe, and its set-up checked.</summary>
public static class MountCommands
{
    /// <summary>Keeps the sizes that the part is mounted by.</summary>
    public static Task<Result<MountShape>> KeepSizesAsync(PartAction action, MountShape shape, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        return action.RunAsync(
            () => null,
            _ =>
            {
                action.Record.Part.Shape = shape;
                action.Record.Surface.Turn++;
                return shape;
            },
            cancel
        );
    }

    /// <summary>Puts the part on a lathe; not while its plan runs.</summary>
    /// <param name="action">The action.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="mounting">The stack that was picked.</param>
    /// <param name="damped">Band, silencers or belt are on.</param>
    /// <param name="found">Where it is put on again: what was found.</param>
    /// <param name="eyes">The day of the shop, where eyes, guard and sleeves were seen to now.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<MountEntry>> MountAsync(
        PartAction action,
        ShopLathe lathe,
        MountOption mounting,
        bool damped,
        RemountCause? found,
        DateOnly? eyes,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        var again = record.Mounting.Mount is not null;
        return action.RunAsync(
            () =>
                record is { Station: Station.Cut, Planning.Passes.Count: > 0 } ? new Refusal.PlanRuns()
                : again && found is null ? new Refusal.Missing(Answer.Choice)
                : null,
            _ =>
            {
                if (eyes is { } today)
                    CutCommands.SeeToEyes(action.Db, lathe.Id, action.Actor, today);
                return Mount(record, lathe, mounting, damped, again ? found : null, action.Actor);
            },
            cancel
        );
    }

    /// <summary>Keeps a check of the set-up where one was made, and goes on to the cut where that is asked for: both or neither.</summary>
    /// <param name="action">The action.</param>
    /// <param name="seen">The check; null for none.</param>
    /// <param name="goOn">The part may be cut as it is mounted.</param>
    /// <param name="reason">Why, where the check speaks against it or was not made.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<SurfaceRecord>> KeepCheckAsync(
        PartAction action,
        SetUpSeen? seen,
        bool goOn,
        string? reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var record = action.Record;
        return action.RunAsync<SurfaceRecord>(
            () =>
                record.Mounting.Mount is null ? new Refusal.NotNow()
                : goOn && VerdictOf(record, seen) != SetUpVerdict.True && Text.Trimmed(reason) is null ? new Refusal.Missing(Answer.Reason)
                : null,
            async _ =>
            {
                var now = record;
                if (seen is not null)
                {
                    CheckSetUp(record, seen, action.Actor);
                    if (goOn && await action.Db.TrySaveAsync(cancel) is { } refusal)
                        return refusal;
                    now = new(record.Surface, record.Part, record.Shop);
                }
                if (goOn)
                    GoOn(now, reason, action.Actor);
                return now;
            },
            cancel,
            inSteps: seen is not null && goOn
        );
    }

    /// <summary>What the set-up comes to by a check that is typed, otherwise by the last one kept; null where there is none.</summary>
    public static SetUpVerdict? VerdictOf(SurfaceRecord record, SetUpSeen? seen)
    {
        ArgumentNullException.ThrowIfNull(record);
        return seen?.Check(record).Verdict ?? record.Mounting.SetUp?.Verdict;
    }

    /// <summary>Puts the part on a lathe.</summary>
    /// <param name="record">The surface.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="mounting">The stack that was picked.</param>
    /// <param name="damped">Band, silencers or belt are on.</param>
    /// <param name="found">It was mounted before and put on again: what was found.</param>
    /// <param name="actor">Who mounts.</param>
    public static MountEntry Mount(
        SurfaceRecord record,
        ShopLathe lathe,
        MountOption mounting,
        bool damped,
        RemountCause? found,
        Actor actor
    )
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
            At = actor.At,
            ById = actor.Id,
        };
        record.Surface.Mounts.Add(mount);
        return mount;
    }

    /// <summary>Keeps a check of the set-up; the last one counts.</summary>
    public static SetUpEntry CheckSetUp(SurfaceRecord record, SetUpSeen seen, Actor actor)
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
            Turned = seen is { Manner: SetUpManner.TwoArcs } or { Manner: not SetUpManner.SideBySide, Second: null } ? 0 : seen.Turned,
            FirstDegrees = seen.First.At.Degrees,
            FirstArc = seen.First.Arc,
            FirstLength = seen.First.Depth ?? seen.First.Runout,
            SecondDegrees = seen.Second?.At.Degrees,
            SecondArc = seen.Second?.Arc,
            SecondLength = seen.Second?.Depth ?? seen.Second?.Runout,
            Tolerance = record.Shop.Rules.SetUp.SetUpTolerance,
            Verdict = check.Verdict,
            SetUpRunout = check.SetUpRunout,
            PartRunout = check.PartRunout,
            RunoutNow = check.RunoutNow,
            CostNow = check.CostNow,
            LeftOnVehicle = check.LeftOnVehicle,
            SetUpShare = check.SetUpShare,
            At = actor.At,
            ById = actor.Id,
        };
        record.Surface.SetUps.Add(entry);
        return entry;
    }

    /// <summary>
    /// The part may be cut as it is mounted. Run-out that the check found enters the needs, unless it was read on the lathe since the
    /// part was mounted.
    /// </summary>
    /// <exception cref="ArgumentException">Against the check, or without one, it takes a reason.</exception>
    public static void GoOn(SurfaceRecord record, string? reason, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(record);
        var mount = record.Mounting.Mount ?? throw new InvalidOperationException("The part is not on a lathe.");
        var check = record.Mounting.SetUp;
        if (check is not { Verdict: SetUpVerdict.True } && Text.Trimmed(reason) is null)
            throw new ArgumentException("Going on against the check takes a reason.", nameof(reason));
        record.Surface.SetUpDecisions.Add(
            new()
            {
                MountId = mount.Id,
                CheckId = check?.Id,
                Reason = check is { Verdict: SetUpVerdict.True } ? null : Text.Trimmed(reason),
                At = actor.At,
                ById = actor.Id,
            }
        );
        record.Surface.Turn++;
        if (check?.RunoutNow is not { } runout)
            return;
        var (kind, value) = record.Kind == PartKind.Rotor ? (ReadingKind.RunoutOuter, runout) : (ReadingKind.Eccentricity, runout / 2);
        if (record.Measuring.Figure(kind) is { } known && known.IsAfter(mount))
            return;
        MeasureCommands.RecordReading(
            record,
            kind,
            null,
            new(LengthText.Figure(value, LengthUnit.Millimetre, 3, Toward.Nearest), LengthUnit.Millimetre, value, ""),
            LengthUnit.Millimetre,
            null,
            actor,
            new(Note: "from the set-up check")
        );
    }
}
