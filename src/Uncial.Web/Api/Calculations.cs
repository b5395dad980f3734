using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Web.Text;
using static Uncial.Web.Api.Figures;

namespace Uncial.Web.Api;

/// <summary>The calculations as JSON: the same Core that serves the pages. They hold no data and need no sign-in.</summary>
internal static class Calculations
{
    private const int MostReadings = 400;
    private const int MostTechniques = 40;

    private static readonly Dictionary<string, PartKind> Kinds = new() { ["rotor"] = PartKind.Rotor, ["drum"] = PartKind.Drum };

    public static void MapCalculations(this IEndpointRouteBuilder app)
    {
        var api = app.MapGroup("/api/v1")
            .AllowAnonymous()
            .DisableAntiforgery()
            .RequireRateLimiting("calculations")
            .WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(256 * 1024))
            .WithTags("Calculations")
            .ProducesValidationProblem();
        api.MapPost("/lengths/parse", Parse).WithSummary("Reads a typed length.").Produces<ParseResponse>();
        api.MapPost("/assess/rotor", AssessRotor).WithSummary("Assesses the readings of a rotor.").Produces<AssessRotorResponse>();
        api.MapPost("/assess/drum", AssessDrum).WithSummary("Assesses the readings of a drum.").Produces<AssessDrumResponse>();
        api.MapPost("/setup-check", CheckSetUp)
            .WithSummary("Splits run-out into part and set-up by reversal.")
            .Produces<SetUpCheckResponse>();
        api.MapPost("/passes/plan", PlanPasses).WithSummary("Plans passes by every technique.").Produces<PlanPassesResponse>();
        api.MapPost("/judge", Judge).WithSummary("Judges a finished part.").Produces<JudgeResponse>();
    }

    private static IResult Parse(ParseRequest request)
    {
        var check = new Check();
        var unit = check.OneOf(
            "unit",
            request.Unit,
            new Dictionary<string, LengthUnit> { ["mm"] = LengthUnit.Millimetre, ["in"] = LengthUnit.Inch }
        );
        if (check.Failed)
            return check.Problem();
        var result = LengthParser.Parse(request.Text, unit);
        if (result.Typed is { } typed)
            return Results.Ok(new ParseResponse(Exact(typed.Value), Math.Round(typed.Value.Inches, 8) / 1.0000000000m, typed.Echo));
        return Results.ValidationProblem(
            new Dictionary<string, string[]> { ["text"] = [Words.Of(result.Fault!.Value, unit)] },
            extensions: new Dictionary<string, object?> { ["position"] = result.Position }
        );
    }

    private static IResult AssessRotor(AssessRotorRequest request)
    {
        var check = new Check();
        var limits = LimitsOf(check, PartKind.Rotor, request.Limits);
        var readings = Readings(check, request.Readings, (path, r) =>
            new(
                ClockAngle.FromDegrees(check.Degrees(path + ".clockDeg", r.ClockDeg)),
                check.SizeOrNull(path + ".radiusMm", r.RadiusMm),
                check.Size(path + ".thicknessMm", r.ThicknessMm)
            )
        );
        var touch = check.SizeOrNull("touchRadiusMm", request.TouchRadiusMm);
        CheckTouch(check, "touchRadiusMm", touch, readings);
        Face FaceOf(string path, FaceBody? face) =>
            new(
                check.DepthOrNull(path + ".runoutMm", face?.RunoutMm),
                check.DepthOrNull(path + ".grooveMm", face?.GrooveMm),
                check.DepthOrNull(path + ".reliefMm", face?.ReliefMm)
            );
        var faces = new PerFace<Face>(FaceOf("faces.outer", request.Faces?.Outer), FaceOf("faces.inner", request.Faces?.Inner));
        var uncertainty = check.Uncertainty("uncertaintyMm", request.UncertaintyMm);
        if (check.Failed || limits is null)
            return check.Problem();

        var f = RotorAssessment.Assess(
            new()
            {
                Limits = limits,
                Readings = readings,
                Uncertainty = uncertainty,
                Faces = faces,
                TouchStation = touch,
            },
            ShopRules.Default
        );
        var trig = f.Fit is not null;
        return Results.Ok(
            new AssessRotorResponse(
                Exact(f.Least),
                Exact(f.Greatest),
                Exact(f.ThicknessVariation),
                f.VariationIsLowerBound,
                Exact(f.StockToDiscard),
                Exact(f.StockToMachineTo),
                Name(f.DiscardVerdict),
                Name(f.MachineToVerdict),
                Exact(limits.MachineTo),
                limits.MachineToDerived,
                Computed(f.Touch, trig),
                Computed(f.TouchCareful, trig),
                Exact(f.TouchBound),
                f.Need is { } n ? new(Exact(n.Outer), Exact(n.Inner)) : null,
                Computed(f.LeastFinished, trig),
                new(f.RunoutAssumed.Outer, f.RunoutAssumed.Inner),
                f.FiguresAgree,
                f.Fit is { } fit ? new(Computed(fit.Mean), Computed(fit.Least), Math.Round(fit.LeastAt.Degrees, 4)) : null,
                NoteBody.All(f.Notes)
            )
        );
    }

    private static IResult AssessDrum(AssessDrumRequest request)
    {
        var check = new Check();
        var limits = LimitsOf(check, PartKind.Drum, request.Limits);
        var readings = Readings(check, request.Readings, (path, r) => DrumReading(check, path, r.AxisDeg, r.DepthMm, r.DiameterMm));
        var touch = check.DepthOrNull("touchDepthMm", request.TouchDepthMm);
        CheckTouch(check, "touchDepthMm", touch, readings);
        var measurement = (
            Uncertainty: check.Uncertainty("uncertaintyMm", request.UncertaintyMm),
            Eccentricity: check.DepthOrNull("eccentricityMm", request.EccentricityMm),
            Groove: check.DepthOrNull("grooveMm", request.GrooveMm)
        );
        if (check.Failed || limits is null)
            return check.Problem();

        var f = DrumAssessment.Assess(
            new()
            {
                Limits = limits,
                Readings = readings,
                TouchStation = touch,
                Uncertainty = measurement.Uncertainty,
                Eccentricity = measurement.Eccentricity,
                Groove = measurement.Groove,
            },
            ShopRules.Default
        );
        return Results.Ok(
            new AssessDrumResponse(
                Exact(f.Least),
                Exact(f.Greatest),
                Computed(f.Largest),
                Computed(f.StockToDiscard),
                Computed(f.StockToMachineTo),
                Name(f.DiscardVerdict),
                Name(f.MachineToVerdict),
                Exact(limits.MachineTo),
                limits.MachineToDerived,
                f.BelowFloor,
                f.Roundness is { } r
                    ? new(r.Proven, Computed(r.OutOfRound), r.LargestAxis is { } axis ? Math.Round(axis, 4) : null, Computed(r.Mean))
                    : null,
                Exact(f.Taper),
                Computed(f.Touch),
                Computed(f.TouchCareful),
                Exact(f.TouchBound),
                Computed(f.Clean),
                f.Need is { } need ? new(Computed(need)) : null,
                NoteBody.All(f.Notes)
            )
        );
    }

    private static IResult CheckSetUp(SetUpCheckRequest request)
    {
        var check = new Check();
        var kind = check.OneOf("kind", request.Kind, Kinds);
        var turned = check.Degrees("turnedDeg", request.TurnedDeg);
        if (!check.Failed && !SetUpCheck.TurnTells(turned))
            check.Fail("turnedDeg", "api.turn");
        var tolerance = check.DepthOrNull("toleranceMm", request.ToleranceMm) ?? Length.FromMillimetres(0.025m);
        var division = check.DepthOrNull("divisionMm", request.DivisionMm) ?? Length.FromMillimetres(0.01m);
        var first = MarkOf(check, "first", request.First);
        var second = MarkOf(check, "second", request.Second);
        if (
            first is not null
            && second is not null
            && ((first.Runout is null) != (second.Runout is null) || (first.Depth is null) != (second.Depth is null))
        )
            check.Fail("second", "api.oneKind");
        if (check.Failed || first is null || second is null)
            return check.Problem();

        var s = SetUpCheck.Of(kind, turned, tolerance, division, first, second);
        return Results.Ok(
            new SetUpCheckResponse(
                new(Computed(s.PartRunout), Degrees(s.PartAt)),
                new(Computed(s.SetUpRunout), Degrees(s.SetUpAt)),
                s.SetUpShare is { } share ? Math.Round((decimal)share, 4) : null,
                Computed(s.CostFirst),
                Computed(s.CostNow),
                Computed(s.LeftOnVehicle),
                Name(s.Verdict),
                NoteBody.All(s.Notes)
            )
        );
    }

    private static RunoutMark? MarkOf(Check check, string path, MarkBody? mark)
    {
        if (mark is null)
        {
            check.Missing(path);
            return null;
        }
        var at = ClockAngle.FromDegrees(check.Degrees(path + ".clockDeg", mark.ClockDeg));
        if (mark.ArcDeg is <= 0 or > 360)
            check.Fail(path + ".arcDeg", "api.range", 0, 360);
        if (mark.DepthMm <= 0)
            check.Fail(path + ".depthMm", "api.above", "50 mm");
        switch (mark)
        {
            case { ArcDeg: null, DepthMm: null, RunoutMm: not null }:
                return RunoutMark.Indicated(at, check.Depth(path + ".runoutMm", mark.RunoutMm));
            case { ArcDeg: { } arc, DepthMm: not null, RunoutMm: null }:
                return RunoutMark.Scratch(at, arc, check.Depth(path + ".depthMm", mark.DepthMm));
            case { ArcDeg: { } arc, DepthMm: null, RunoutMm: null }:
                return RunoutMark.Direction(at, arc);
            default:
                check.Fail(path, "api.mark");
                return null;
        }
    }

    private static IResult PlanPasses(PlanPassesRequest request)
    {
        var check = new Check();
        var kind = check.OneOf("kind", request.Kind, Kinds);
        var rotor = kind == PartKind.Rotor;
        var needs = request.NeedMm;
        Length[] need = rotor
            ? [check.Depth("needMm.outer", needs?.Outer), check.Depth("needMm.inner", needs?.Inner)]
            : [check.Depth("needMm.bore", needs?.Bore)];
        if (rotor && needs?.Bore is not null)
            check.Fail("needMm.bore", "api.json");
        if (!rotor && (needs?.Outer ?? needs?.Inner) is not null)
            check.Fail("needMm", "api.json");
        if (request.Dial is null)
            check.Missing("dial");
        if (request.Dial?.DivisionMm is < 0.0001m or > 5m)
            check.Fail("dial.divisionMm", "api.range", "0.0001", "5 mm");
        var counts = check.OneOf(
            "dial.counts",
            request.Dial?.Counts ?? "depth",
            new Dictionary<string, bool> { ["depth"] = false, ["diameter"] = true }
        );
        var dial = new Dial(
            check.Size("dial.divisionMm", request.Dial?.DivisionMm),
            counts,
            check.DepthOrNull("dial.allowanceMm", request.Dial?.AllowanceMm) ?? Length.Zero,
            request.Dial?.Confirmed ?? true
        );
        var plan = new PlanRequest
        {
            Kind = kind,
            Touch = check.Size("touchMm", request.TouchMm),
            TouchBound = check.Size("touchBoundMm", request.TouchBoundMm),
            Worst = rotor ? check.SizeOrNull("leastMm", request.LeastMm) : check.SizeOrNull("greatestMm", request.GreatestMm),
            MachineTo = check.Size("machineToMm", request.MachineToMm),
            Discard = check.SizeOrNull("discardMm", request.DiscardMm),
            Uncertainty = check.Uncertainty("uncertaintyMm", request.UncertaintyMm),
            Sides = [.. need.Select(n => new SideNeed(n))],
            Dial = dial,
            TwinCutter = request.TwinCutter ?? true,
            DefaultTechnique = request.DefaultTechnique ?? "working",
            Techniques = TechniquesOf(check, request.Techniques),
        };
        if (plan.Discard is { } discard && !check.Failed && Limits.Margin(kind, plan.MachineTo, discard) < Length.Zero)
            check.Fail("machineToMm", "api.order");
        if (!check.Failed && plan.BoundIsBetterThanTouch)
            check.Fail("touchBoundMm", "api.touchBound");
        if (!check.Failed && plan.WorstContradicts)
            check.Fail(rotor ? "leastMm" : "greatestMm", "api.contradicts");
        if (
            !plan.Techniques.Any(t => t.Key == plan.DefaultTechnique)
            && request.DefaultTechnique is not null
            && Technique.BuiltIn.All(t => t.Key != plan.DefaultTechnique)
        )
            check.Fail("defaultTechnique", "api.oneOf", string.Join(", ", plan.Techniques.Select(t => t.Key)));
        return check.Failed ? check.Problem() : Results.Ok(PlanBodies.Of(PassPlanner.Plan(plan), kind));
    }

    private static IReadOnlyList<Technique> TechniquesOf(Check check, TechniqueBody?[]? bodies)
    {
        if (bodies is null)
            return Technique.BuiltIn;
        if (bodies.Length > MostTechniques)
            check.Fail("techniques", "api.tooMany", MostTechniques);
        List<Technique> all = [];
        for (var i = 0; i < Math.Min(bodies.Length, MostTechniques); i++)
        {
            var path = $"techniques[{i}]";
            if (bodies[i] is not { } b)
            {
                check.Missing(path);
                continue;
            }
            if (b.BuiltIn)
            {
                all.Add(check.OneOf(path, b.Key, Technique.BuiltIn.ToDictionary(t => t.Key)));
                continue;
            }
            if (string.IsNullOrWhiteSpace(b.Key) || b.Key.Length > 60)
                check.Fail(path + ".key", "api.required");
            if (b.MinRough is null)
                check.Missing(path + ".minRough");
            if (b.MaxRough is null)
                check.Missing(path + ".maxRough");
            if (b.MinRough is < 0 or > 100)
                check.Fail(path + ".minRough", "api.range", 0, 100);
            if (b.MaxRough is < 0 or > 100)
                check.Fail(path + ".maxRough", "api.range", 0, 100);
            if (b.MinRough > b.MaxRough)
                check.Fail(path + ".minRough", "api.minOverMax");
            if (b.RoughMinMm > b.RoughMaxMm)
                check.Fail(path + ".roughMinMm", "api.minOverMax");
            if (b.FinishMinMm > b.FinishMaxMm)
                check.Fail(path + ".finishMinMm", "api.minOverMax");
            all.Add(
                new(
                    b.Key ?? "",
                    check.Depth(path + ".roughMinMm", b.RoughMinMm),
                    check.Depth(path + ".roughMaxMm", b.RoughMaxMm),
                    check.Depth(path + ".finishMinMm", b.FinishMinMm),
                    check.Depth(path + ".finishMaxMm", b.FinishMaxMm),
                    b.MinRough ?? 0,
                    b.MaxRough ?? 0
                )
            );
        }
        return all;
    }

    private static IResult Judge(JudgeRequest request)
    {
        var check = new Check();
        var kind = check.OneOf("kind", request.Kind, Kinds);
        var limits = LimitsOf(check, kind, request.Limits);
        var readings = Readings(check, request.Readings, (path, r) =>
        {
            if (kind == PartKind.Drum)
            {
                if ((r.ClockDeg ?? r.RadiusMm ?? r.ThicknessMm) is not null)
                    check.Fail(path, "api.json");
                return DrumReading(check, path, r.AxisDeg, r.DepthMm, r.DiameterMm);
            }
            if ((r.AxisDeg ?? r.DepthMm ?? r.DiameterMm) is not null)
                check.Fail(path, "api.json");
            return new(
                ClockAngle.FromDegrees(check.Degrees(path + ".clockDeg", r.ClockDeg)),
                check.SizeOrNull(path + ".radiusMm", r.RadiusMm),
                check.Size(path + ".thicknessMm", r.ThicknessMm)
            );
        });
        var uncertainty = check.Uncertainty("uncertaintyMm", request.UncertaintyMm);
        var (groove, relief) = (check.DepthOrNull("grooveLeftMm", request.GrooveLeftMm), check.DepthOrNull("reliefMm", request.ReliefMm));
        var (doubt, parallelism) = (
            check.DepthOrNull("depthDoubtMm", request.DepthDoubtMm),
            check.DepthOrNull("parallelismMm", request.ParallelismMm)
        );
        if (kind == PartKind.Drum && request is { TurnedBright: { } bright, BoredHere: { } bored } && bright != bored)
            check.Fail("boredHere", "api.sameAs", "turnedBright");
        if (check.Failed || limits is null)
            return check.Problem();

        var j = Judgement.Of(
            new()
            {
                Limits = limits,
                Readings = readings,
                Uncertainty = uncertainty,
                GrooveLeft = groove,
                ReliefLeft = relief,
                DepthUncertainty = doubt is { } one ? DepthsLeft.UncertaintyOf(kind == PartKind.Rotor ? 2 : 1, one) : null,
                TurnedBright = request.TurnedBright ?? (kind == PartKind.Drum && request.BoredHere == true),
                Parallelism = parallelism,
            },
            ShopRules.Default
        );
        return Results.Ok(
            new JudgeResponse(
                Computed(j.Worst, kind == PartKind.Drum),
                Computed(j.Allowance),
                Name(j.Discard),
                Name(j.MachineTo),
                Name(j.Decision),
                j.ProbabilityWithinDiscard is { } p ? Math.Round((decimal)p, 6) : null,
                Computed(j.LeftToDiscard, kind == PartKind.Drum),
                NoteBody.All(j.Notes)
            )
        );
    }

    private static Limits? LimitsOf(Check check, PartKind kind, LimitsBody? body)
    {
        var nominal = check.SizeOrNull("limits.nominalMm", body?.NominalMm);
        var machineTo = check.SizeOrNull("limits.machineToMm", body?.MachineToMm);
        var discard = check.Size("limits.discardMm", body?.DiscardMm);
        if (check.Failed)
            return null;
        var (limits, fault) = Limits.Create(kind, nominal, machineTo, discard, ShopRules.Default);
        if (limits is null)
            check.Fail(fault == LimitFault.MachineToPastDiscard ? "limits.machineToMm" : "limits.nominalMm", "limit." + fault);
        else if (limits.MachineTo <= Length.Zero)
            check.Fail("limits.discardMm", "api.order");
        return limits;
    }

    private static Reading DrumReading(Check check, string path, decimal? axis, decimal? depth, decimal? diameter) =>
        new(
            ClockAngle.FromDegrees(check.Degrees(path + ".axisDeg", axis)),
            check.DepthOrNull(path + ".depthMm", depth) ?? null,
            check.Size(path + ".diameterMm", diameter)
        );

    private static Reading[] Readings<T>(Check check, T?[]? bodies, Func<string, T, Reading> read)
        where T : class
    {
        if (bodies is null)
        {
            check.Missing("readings");
            return [];
        }
        if (bodies.Length > MostReadings)
        {
            check.Fail("readings", "api.tooMany", MostReadings);
            return [];
        }
        List<Reading> readings = [];
        for (var i = 0; i < bodies.Length; i++)
        {
            var path = $"readings[{i}]";
            if (bodies[i] is { } body)
                readings.Add(read(path, body));
            else
                check.Missing(path);
        }
        return [.. readings];
    }

    private static void CheckTouch(Check check, string path, Length? touch, Reading[] readings)
    {
        if (touch is not null && readings.Length > 0 && !readings.Any(r => r.Station == touch) && !readings.All(r => r.Station is null))
            check.Fail(path, "api.station");
    }
}
