using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Practice;

/// <summary>
/// A hand who does what the product says: measures, mounts and checks the set-up, plans, cuts pass by pass with what is seen, confirms. All
/// that it knows it has read with a gauge or seen on the metal.
/// </summary>
public sealed class ByTheBook
{
    private static readonly int[] Around = [0, 9, 18, 27, 36, 45, 54, 63];
    private static readonly int[] AroundAgain = [4, 13, 22, 31, 40, 49, 58, 67];
    private static readonly int[] Axes = [0, 9, 18, 27];
    private static readonly int[] AxesAgain = [4, 13, 22, 31];

    private static readonly ShopRules WithoutAllowance = ShopRules.Default with { UnreadShareOfVariation = 1_000_000m, UnseenLobesFullRound = Length.Zero, UnknownParallelism = Length.Zero };

    private readonly Job job;
    private readonly Technique technique;
    private readonly ShopRules rules = ShopRules.Default;
    private readonly VirtualPart part;
    private readonly VirtualLathe lathe;
    private readonly bool rotor;
    private readonly bool scratches;
    private double correction;
    private double needed;
    private double warmth;
    private int passes;
    private double minutes;
    private int bounds;
    private int failed;
    private double worstFailure;

    private readonly BookRule without;

    private ByTheBook(Job job, Technique technique, BookRule without)
    {
        (this.job, this.technique, this.without, part) = (job, technique, without, job.Part);
        lathe = new(part, job.Work, job.Chance);
        (rotor, scratches) = (part.Kind == PartKind.Rotor, job.Chance.Happens(0.5));
    }

    /// <summary>Works a part from the first reading to the decision.</summary>
    /// <param name="job">The part and its circumstances; it is used up.</param>
    /// <param name="technique">How it is cut.</param>
    /// <param name="without">A rule that is left out, to learn what it is worth.</param>
    public static Outcome Work(Job job, Technique technique, BookRule without = BookRule.None) => new ByTheBook(job, technique, without).Work();

    private Outcome Work()
    {
        var so = new Outcome { InsideBefore = part.Inside(part.Limits.Discard, grooves: true) };
        (correction, _) = job.Chance.Happens(0.9) ? job.CheckZero() : (0, true); // now and then it is found late
        var readings = job.Read(rotor ? Around : Axes, correction);
        var setUp = Mount();
        var request = RequestOf(readings, setUp);
        if (request is null) return Confirm(so, cut: false);
        for (var i = 0; i < (job.TurnsRound ? 1 : part.Faces.Count); i++) Touch(i);
        job.LeaveGaugeLying();
        var (started, first) = Cut(request);
        if (!started) return Confirm(so, cut: false);
        var taken = Enumerable.Range(0, part.Faces.Count).Sum(lathe.Depth);
        return Confirm(so with
        {
            Started = true,
            CleanedByFirstPlan = first,
            Excess = taken - needed,
            Passes = passes,
            Minutes = minutes,
            Bounds = bounds,
            BoundFailed = (failed, worstFailure),
        }, cut: true);
    }

    /// <summary>Mounts, scratches or indicates before and after half a turn, and mounts anew where the check says so, three times at most.</summary>
    private Length? Mount()
    {
        for (var attempt = 0; ; attempt++)
        {
            var (amplitude, at) = (job.Chance.Rayleigh(rotor ? 0.010 : 0.008), job.Chance.Direction());
            lathe.Mount(amplitude, at);
            var first = Mark();
            lathe.Mount(amplitude, at - Math.PI);
            var check = SetUpCheck.Of(part.Kind, 180, rules.SetUpTolerance, Job.Mm(0.01), first, Mark());
            if (check.Verdict != SetUpVerdict.Remount || attempt == 2) return check.SetUpRunout;
        }
    }

    /// <summary>
    /// Rotors by scratch or indicator, as the hand prefers; drums by the swing of opposite spots, since a scratch shows their oval as well.
    /// </summary>
    private RunoutMark Mark() => rotor && scratches ? Scratch() : Indicate();

    /// <summary>A scratch of two hundredths, its ends seen to a few degrees.</summary>
    private RunoutMark Scratch()
    {
        var (middle, extent) = lathe.Scratch(0, part.ReadingStation, 0.02);
        var arc = extent >= 355 ? 360 : Math.Clamp(extent + job.Chance.Normal(5), 5, 355);
        return RunoutMark.Scratch(ClockAngle.FromDegrees((decimal)Math.Round(middle + job.Chance.Normal(4), 1)), (decimal)Math.Round(arc, 1), Job.Mm(0.02));
    }

    private RunoutMark Indicate()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        part.Faces[0].Turning(part.ReadingStation, spots);
        var (best, at, lowest) = (double.MinValue, 0, double.MaxValue);
        for (var i = 0; i < WorkFace.Angles; i++)
        {
            var here = rotor ? spots[i] : spots[i] - spots[(i + WorkFace.Angles / 2) % WorkFace.Angles];
            if (here > best) (best, at) = (here, i);
            lowest = Math.Min(lowest, spots[i]);
        }
        var swing = job.Indicate(rotor ? best - lowest : best, 0.003);
        return RunoutMark.Indicated(ClockAngle.FromDegrees((decimal)Math.Round(at * 5 + job.Chance.Normal(6), 1)), swing);
    }

    /// <summary>Half of the swing of opposite spots of the bore.</summary>
    private double Eccentricity()
    {
        Span<double> spots = stackalloc double[WorkFace.Angles];
        part.Faces[0].Turning(part.ReadingStation, spots);
        var most = 0.0;
        for (var i = 0; i < WorkFace.Angles / 2; i++) most = Math.Max(most, Math.Abs(spots[i] - spots[i + WorkFace.Angles / 2]));
        return most / 2;
    }

    private PlanRequest? RequestOf(IReadOnlyList<Reading> readings, Length? setUp)
    {
        PlanRequest request;
        if (rotor)
        {
            var (knowsBoth, knowsOne) = (job.Chance.Happens(0.75), job.Chance.Happens(0.4));
            var measurement = new RotorMeasurement
            {
                Limits = part.Limits, Readings = readings, Uncertainty = job.Uncertainty, EdgeRadius = Job.Mm(part.StationsMm[^1]),
                Faces = new(FaceOf(0, knowsBoth || knowsOne), FaceOf(1, knowsBoth)),
            };
            var figures = RotorAssessment.Assess(measurement, rules);
            if (figures.DiscardVerdict == Verdict.Beyond) return null;
            request = PlanRequest.For(measurement, figures, job.Dial, rules);
        }
        else
        {
            var face = part.Faces[0];
            var station = part.ReadingStation;
            var measurement = new DrumMeasurement
            {
                Limits = part.Limits, Readings = readings, Uncertainty = job.Uncertainty, Groove = job.Indicate(face.GrooveLeft(), 0.01),
                Eccentricity = job.Chance.Happens(0.8) ? job.Indicate(Eccentricity(), 0.003) : null, TouchStation = Job.Mm(part.StationsMm[station]),
            };
            var figures = DrumAssessment.Assess(measurement, rules);
            if (figures.DiscardVerdict == Verdict.Beyond || figures.BelowFloor) return null;
            request = PlanRequest.For(measurement, figures, job.Dial);
        }
        return request with
        {
            Worst = without == BookRule.DarkPlaces ? null : request.Worst,
            Dial = without == BookRule.DialAllowance ? request.Dial with { Allowance = Length.Zero } : request.Dial,
            Techniques = [technique],
            DefaultTechnique = technique.Key,
            TwinCutter = job.TwinCutter,
            SetUpRunout = setUp,
            SecondChuckingRunout = job.TurnsRound ? rules.SecondChuckingRunout : null,
        };
    }

    private Face FaceOf(int i, bool indicated)
    {
        var face = part.Faces[i];
        var station = part.ReadingStation;
        var (high, low) = face.Extremes(station);
        var lowest = Enumerable.Range(0, face.Stations).Where(s => face.At(s) == Ground.Land).Min(s => face.Extremes(s).Highest);
        return new(indicated ? job.Indicate(high - low, 0.003) : null, job.Indicate(face.GrooveLeft(), 0.01),
            job.Indicate(Math.Max(0, high - lowest), 0.008), indicated ? Job.Mm(part.StationsMm[station]) : null);
    }

    /// <summary>Touches where it was read; now and then on another land, without knowing.</summary>
    private void Touch(int face)
    {
        lathe.Touch(face, job.Chance.Happens(0.95) ? part.ReadingStation : 3);
        needed += lathe.TrueNeed(face);
    }

    private (bool Started, bool FirstPlanCleaned) Cut(PlanRequest request)
    {
        var (started, beyondFirst) = (false, false);
        long[]? first = null;
        for (var version = 0; version < 40; version++)
        {
            var option = PassPlanner.Plan(request).Options[0];
            if (!option.CanStart || option.Passes.Count == 0) break;
            started = true;
            first ??= [.. request.Sides.Select((_, side) => option.Passes.Sum(p => p.Divisions[side]))];
            var todo = option.Passes;
            AfterPass? after = null;
            for (var i = 0; i < todo.Count; i++)
            {
                if (todo[i].TurnFirst) Turn();
                Make(todo[i]);
                after = Look(request, todo, i, sizeAsked: i + 1 < todo.Count && todo[i + 1].MeasureFirst);
                if (after.Next != NextStep.GoOn) break;
            }
            beyondFirst |= first.Where((most, side) => lathe.Divisions(side) > most).Any();
            if (after is null || after.Next is NextStep.Finished or NextStep.Stop) break;
            request = after.Request;
        }
        return (started, !beyondFirst && part.Faces.All(f => f.IsClean()));
    }

    private void Turn()
    {
        lathe.TurnRound(job.Chance.Rayleigh(0.008), job.Chance.Direction());
        Touch(1);
    }

    private void Make(PlannedPass pass)
    {
        for (var side = 0; side < pass.Divisions.Count; side++)
        {
            if (pass.Kind == PassKind.SparkOut) lathe.SparkOut(side);
            else if (pass.Divisions[side] > 0) lathe.Cut(side, pass.Divisions[side]);
        }
        passes++;
        minutes += job.MinutesOf(pass.Kind);
        warmth = job.Chance.Between(2, 15);
        bounds++;
        var past = (rotor ? 1 : -1) * ((double)pass.BoundAfter.Millimetres - part.WorstSize(grooves: false));
        if (past <= 1e-9) return;
        failed++;
        worstFailure = Math.Max(worstFailure, past);
    }

    /// <summary>Looks at the metal; measures where the next pass asks for it, or where no plan may start without.</summary>
    private AfterPass Look(PlanRequest request, IReadOnlyList<PlannedPass> todo, int last, bool sizeAsked)
    {
        SideSeen[] seen = [.. part.Faces.Select(SeeOf)];
        AfterPass Read(SizeSeen? size) => AfterPass.Read(request, [.. todo.Take(last + 1)], [.. todo.Skip(last + 1)], seen, size, rules);
        if (sizeAsked) return Read(Measure());
        var after = Read(null);
        if (after.Next != NextStep.PlanAnew) return after;
        var anew = PassPlanner.Plan(after.Request).Options[0];
        return anew is { CanStart: true, Start: PlanStart.Free } ? after : Read(Measure());
    }

    /// <summary>Twelfths that are bright; where all are, what is left of the grooves.</summary>
    private SideSeen SeeOf(WorkFace face)
    {
        var clean = face.CleanSectors();
        if (clean < 12) return new(clean, null);
        var groove = face.GrooveLeft();
        return new(clean, job.Indicate(groove, groove > 0 ? 0.005 : 0));
    }

    /// <summary>One size, at a spot that is bright on every side if there is one.</summary>
    private SizeSeen Measure()
    {
        var station = part.ReadingStation;
        bool Bright(int spot) => rotor ? part.Faces.All(f => f.IsBright(spot, station))
            : part.Faces[0].IsBright(spot, station) && part.Faces[0].IsBright((spot + WorkFace.Angles / 2) % WorkFace.Angles, station);
        var spot = Array.FindIndex([.. Enumerable.Range(0, WorkFace.Angles)], Bright);
        return new(Job.Mm(job.ReadOne(Math.Max(0, spot), station, correction, warmth)), spot >= 0);
    }

    /// <summary>Off the lathe, cool and clean: gauge checked, same places read, judged; where that is not enough, read between them too.</summary>
    private Outcome Confirm(Outcome so, bool cut)
    {
        (correction, _) = job.CheckZero();
        var readings = job.Read(rotor ? Around : Axes, correction);
        var judgement = Judge(readings, cut);
        if (judgement.Decision == Decision.MeasureAgain)
            judgement = Judge([.. readings, .. job.Read(rotor ? AroundAgain : AxesAgain, correction)], cut);
        var released = judgement.Decision is Decision.Release or Decision.LeadOnly;
        return job.Close(so, released, judgement.Decision == Decision.Release);
    }

    private Judgement Judge(IReadOnlyList<Reading> readings, bool cut)
    {
        var faces = part.Faces.Select((f, i) => LeftOn(f, i == 0 ? "outer" : "inner")).ToList();
        var left = DepthsLeft.Of(faces, rules);
        return Judgement.Of(new()
        {
            Limits = part.Limits, Readings = readings,
            Uncertainty = without == BookRule.HalfTheUncertainty ? job.Uncertainty / 2 : job.Uncertainty,
            GrooveLeft = left.Groove,
            ReliefLeft = without is BookRule.Relief or BookRule.WhatLiesLower ? Length.Zero : left.Relief,
            DepthUncertainty = without is BookRule.DepthUncertainty or BookRule.WhatLiesLower ? Length.Zero : left.Uncertainty,
            TurnedBright = cut && faces.TrueForAll(f => f.IsBright) && !job.TurnsRound,
            Band = Job.Mm(part.StationsMm[^1] - part.StationsMm[0]),
        }, without == BookRule.Allowance ? WithoutAllowance : rules);
    }

    /// <summary>Groove and relief of a face as a depth gauge and a straightedge say. A drum is read at every land: none of them is lower.</summary>
    private FaceLeft LeftOn(WorkFace face, string side)
    {
        var (groove, relief) = (face.GrooveLeft(), rotor ? face.ReliefLeft(part.ReadingStation) : 0);
        return new(side, groove > 0 ? job.Indicate(groove, 0.01) : Length.Zero, relief > 0 ? job.Indicate(relief, 0.008) : Length.Zero, face.IsClean());
    }
}
