namespace Uncial.Study;

/// <summary>The operator at the lathe: mounts, checks the set-up, touches, cuts and looks.</summary>
internal sealed partial class Operator
{
    /// <summary>
    /// Mounts, scratches or indicates before and after half a turn, and mounts anew where the check says so, three times at most.
    /// </summary>
    private void Mount()
    {
        for (var attempt = 0; ; attempt++)
        {
            MountCommands.Mount(Now(), shop.Lathes[0], new(MountWay.ConeAndCups, "", default, [], []), true, null, Actor);
            var (amplitude, at) = (job.Chance.Rayleigh(rotor ? 0.010 : 0.008), job.Chance.Direction());
            lathe.Mount(amplitude, at);
            var first = Mark();
            lathe.Mount(amplitude, at - Math.PI);
            var manner = rotor && scratches ? SetUpManner.TwoScratches : SetUpManner.Indicator;
            var check = MountCommands.CheckSetUp(Now(), new(manner, 180, first, Mark()), Actor);
            if (check.Verdict == SetUpVerdict.Remount && attempt < 2)
                continue;
            ReadRunouts();
            if (!variant.NeverIndicates)
                MountCommands.GoOn(Now(), check.Verdict == SetUpVerdict.True ? null : "as it is", Actor);
            return;
        }
    }

    /// <summary>
    /// Run-outs as the part turns now: both faces by three in four, otherwise one by two in five; a drum by four in five.
    /// </summary>
    private void ReadRunouts()
    {
        if (!rotor)
        {
            if (job.Chance.Happens(0.8) && !variant.NeverIndicates)
                Say(ReadingKind.Eccentricity, job.Indicate(Eccentricity(), 0.003));
            return;
        }
        var (both, one) = (job.Chance.Happens(0.75) && !variant.NeverIndicates, job.Chance.Happens(0.4) && !variant.NeverIndicates);
        for (var face = 0; face < 2; face++)
            if (both || (one && face == 0))
            {
                var (high, low) = metal.Faces[face].Extremes(metal.ReadingStation);
                Say(face == 0 ? ReadingKind.RunoutOuter : ReadingKind.RunoutInner, job.Indicate(high - low, 0.003));
            }
    }

    /// <summary>
    /// Rotors by scratch or indicator, as the operator prefers; drums by the swing of opposite spots, since a scratch shows their oval
    /// too.
    /// </summary>
    private RunoutMark Mark() => rotor && scratches ? Scratch() : Indicate();

    /// <summary>A scratch of two hundredths, its ends seen to a few degrees.</summary>
    private RunoutMark Scratch()
    {
        var (middle, extent) = lathe.Scratch(0, metal.ReadingStation, 0.02);
        var arc = extent >= 355 ? 360 : Math.Clamp(extent + job.Chance.Normal(5), 5, 355);
        return RunoutMark.Scratch(AngleOf(middle + job.Chance.Normal(4)), (decimal)Math.Round(arc, 1), Len(0.02));
    }

    private RunoutMark Indicate()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        metal.Faces[0].Turning(metal.ReadingStation, spots);
        var (best, at, lowest) = (double.MinValue, 0, double.MaxValue);
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            var here = rotor ? spots[i] : spots[i] - spots[(i + WorkFace.Angles / 2) % WorkFace.Angles];
            if (here > best)
                (best, at) = (here, i);
            lowest = Math.Min(lowest, spots[i]);
        }
        return RunoutMark.Indicated(AngleOf(at * 5 + job.Chance.Normal(6)), Len(job.Indicate(rotor ? best - lowest : best, 0.003)));
    }

    private static ClockAngle AngleOf(double degrees) => ClockAngle.FromDegrees((decimal)Math.Round(degrees, 1));

    /// <summary>Half of the swing of opposite spots of the bore.</summary>
    private double Eccentricity()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        metal.Faces[0].Turning(metal.ReadingStation, spots);
        var most = 0.0;
        for (var i = 0; i < WorkFace.Angles / 2; i++)
            most = Math.Max(most, Math.Abs(spots[i] - spots[i + WorkFace.Angles / 2]));
        return most / 2;
    }

    /// <summary>Touches where it was read.</summary>
    private void Touch(int face)
    {
        lathe.Touch(face, job.Slip(Slips.TouchOnAnotherLand) ? metal.ReadingStation - 2 : metal.ReadingStation);
        needed += lathe.TrueNeed(face);
    }

    private WorkResult Cut(WorkResult so)
    {
        var request = Now().Planning.Request(job.DialVerified);
        request = request with
        {
            Techniques = variant.ProbesFirst
                ? [technique, .. Technique.BuiltIn.Where(t => !t.SparksOut && t.Key != technique.Key)]
                : [technique],
            DefaultTechnique = technique.Key,
            Worst = variant.NoSecondTerm ? null : request.Worst,
        };
        var options = PassPlanner.Plan(request).Options;
        var option = variant.ProbesFirst && options[^1] is { Key: ProbePass.Key } probe ? probe : options[0];
        if (!option.CanStart || option.Passes.Count == 0 || option.Notes.Any(n => n is Note.ShortAtCheckpoint))
        {
            PlanCommands.LeaveUncut(Now(), request, scuffed: false, Actor);
            return so;
        }
        PlanCommands.TakePlan(Now(), request, option, [], Actor);
        var budget = (rotor ? 1 : -1) * (double)(request.Touch - request.MachineTo).Millimetres / (rotor ? 1 : 2);
        long[] first = [.. request.Sides.Select((_, side) => option.Passes.Sum(p => p.Divisions[side]))];
        var measuredAt = -1;
        for (var guard = 0; guard < 300; guard++)
        {
            var record = Now();
            if (record.Planning.Document is not { } plan || record.Planning.Passes.Count >= plan.Option.Passes.Count)
                break;
            if (record.Planning.Change is not null)
            {
                if (!record.Planning.CanPlanAnew)
                    break;
                PlanCommands.PlanForFacts(record, Actor);
                continue;
            }
            if (record.Cutting.StartRefusal is not null)
            {
                // Measured on a bright spot, once for each cut; where that is not enough it is not cut on.
                if (measuredAt == record.CutsDone || BrightSpot() is not { } spot)
                    break;
                measuredAt = record.CutsDone;
                ReadAt(PlaceOf(spot), warmth);
                continue;
            }
            Make(record);
        }
        var taken = Enumerable.Range(0, metal.Faces.Count).Sum(lathe.Depth);
        var clean = metal.Faces.All(f => f.IsClean());
        var beyondFirst = first.Where((most, side) => lathe.Divisions(side) > most).Any();
        return so with
        {
            Started = passes > 0,
            CleanedByFirstPlan = !beyondFirst && clean,
            LeftDarkBy =
                clean || passes == 0
                    ? ""
                    : FormattableString.Invariant($"{Math.Floor((budget - needed) * 20) / 20:0.00} left: ") + WhyNoMore(),
            Excess = taken - needed,
            Passes = passes,
            Minutes = minutes,
            Bounds = bounds,
            BoundFailed = (failed, worstFailure),
        };
    }

    /// <summary>What the product said last: a refusal, or the notes on the plan that ended.</summary>
    private string WhyNoMore()
    {
        var record = Now();
        if (record.Cutting.StartRefusal is { } refusal)
            return refusal.ToString();
        var says = record.Planning.Document is { Why: { Count: > 0 } why } ? string.Join(" ", why.Select(n => n.Code).Distinct()) : "";
        var last = surface.Passes[^1];
        var dark = last.DarkOuter != 0 || last.DarkInner != 0 ? "dark" : "groove";
        return $"{last.Next} {record.Planning.Document?.Option.Key} {says} ({dark})";
    }

    private void Make(SurfaceRecord record)
    {
        var todo = record.Planning.Document!.Option.Passes;
        var pass = todo[record.Planning.Passes.Count];
        var next = todo.ElementAtOrDefault(record.Planning.Passes.Count + 1);
        var start = CutCommands.StartPass(record, 1, Actor, record.Cutting.NeededChecks);
        if (pass.TurnFirst)
        {
            lathe.TurnRound(job.Chance.Rayleigh(0.008), job.Chance.Direction());
            Touch(1);
        }
        for (var side = 0; side < pass.Divisions.Count; side++)
        {
            if (pass.Kind == PassKind.SparkOut)
                lathe.SparkOut(side);
            else if (pass.Divisions[side] > 0)
                lathe.Cut(side, pass.Divisions[side]);
        }
        (passes, minutes, warmth) = (passes + 1, minutes + (double)start.PlannedMinutes, job.Chance.Between(2, 15));
        CompareWithBound(pass);
        CutCommands.StopPass(Now(), CutStopKind.Done, null, Actor);
        CutCommands.RecordPass(Now(), See(measure: next is { MeasureFirst: true } or { TurnFirst: true }), Actor);
    }

    private void CompareWithBound(PlannedPass pass)
    {
        bounds++;
        var past = (rotor ? 1 : -1) * ((double)pass.BoundAfter.Millimetres - metal.WorstSize(grooves: false));
        if (past <= 1e-9)
            return;
        failed++;
        worstFailure = Math.Max(worstFailure, past);
    }

    /// <summary>What is dark, what is left of grooves where all else is bright, and a size where the next pass asks for one.</summary>
    private PassSeen See(bool measure)
    {
        int[] dark = [.. metal.Faces.Select(f => f.DarkSectors())];
        Length? Left(int face) => face < dark.Length && dark[face] == 0 ? Len(Groove(face)) : null;
        double? at = measure ? (BrightSpot() ?? 0) * 5 : null;
        Length? size = at is { } degrees
            ? Len(Exactly(new((decimal)degrees, null), warmth)) + (gauge.LastCheck is { Passed: true } c ? c.Correction : Length.Zero)
            : null;
        return new(dark[0], rotor ? dark[1] : 0, Left(0), rotor ? Left(1) : null, size, (decimal?)at);
    }

    private ReadingPlace PlaceOf(int spot) => new(spot * 5m, rotor ? null : Len(metal.StationsMm[metal.ReadingStation]));

    /// <summary>A spot that is bright on every side, or null.</summary>
    private int? BrightSpot()
    {
        var station = metal.ReadingStation;
        bool Bright(int spot) =>
            rotor
                ? metal.Faces.All(f => f.IsBright(spot, station))
                : metal.Faces[0].IsBright(spot, station)
                    && metal.Faces[0].IsBright((spot + WorkFace.Angles / 2) % WorkFace.Angles, station);
        var found = Enumerable.Range(0, WorkFace.Angles).FirstOrDefault(Bright, -1);
        return found < 0 ? null : found;
    }
}
