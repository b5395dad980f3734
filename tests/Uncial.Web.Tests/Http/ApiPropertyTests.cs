using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using CsCheck;

namespace Uncial.Web.Tests;

/// <summary>Whatever is sent: 200 or 400, and an answer never breaks the inequalities that it states.</summary>
public class ApiPropertyTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const decimal Rounding = 0.00011m;

    private readonly HttpClient caller = shop.Caller();

    /// <summary>Mostly what a bench would send, now and then the edge of a range, now and then past it.</summary>
    private static Gen<decimal> Mm(decimal low, decimal high, decimal most) =>
        Gen.Frequency(
            (30, Gen.Int[0, 4000].Select(i => decimal.Round(low + (high - low) * i / 4000m, 3))),
            (3, Gen.Int[0, 4].Select(i => new[] { 0m, 0.0001m, most, most + 0.0001m, -0.001m }[i]))
        );

    private static readonly Gen<decimal> Size = Mm(22.8m, 24.6m, 2000);
    private static readonly Gen<decimal> Bore = Mm(228.5m, 230.4m, 2000);
    private static readonly Gen<decimal> Depth = Mm(0, 0.3m, 50);
    private static readonly Gen<decimal> Doubt = Mm(0, 0.05m, 5);
    private static readonly Gen<decimal> Degrees = Gen.Frequency(
        (9, Gen.Int[0, 23].Select(i => i * 15m)),
        (1, Gen.Int[-4000, 4000].Select(i => i / 1m))
    );

    private static JsonObject Without(JsonObject o, int drop)
    {
        // Now and then something is left out, as callers do.
        if (drop < o.Count)
            o.Remove(o.ElementAt(drop).Key);
        return o;
    }

    private void Send(string path, JsonObject request, Action<JsonElement> check)
    {
        var json = request.ToJsonString();
        using var content = new StringContent(json, Encoding.UTF8, "application/json");
        using var answer = caller.PostAsync(new Uri("/api/v1/" + path, UriKind.Relative), content).GetAwaiter().GetResult();
        var body = JsonDocument.Parse(answer.Content.ReadAsStringAsync().GetAwaiter().GetResult()).RootElement;
        if (answer.StatusCode == HttpStatusCode.BadRequest)
        {
            body.GetProperty("errors").EnumerateObject().ShouldNotBeEmpty(json);
            return;
        }
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, json + " → " + body);
        try
        {
            check(body);
        }
        catch (ShouldAssertException e)
        {
            throw new ShouldAssertException(json + "\n→ " + body + "\n" + e.Message, e);
        }
    }

    private static decimal D(JsonElement e, params string[] path) => path.Aggregate(e, (x, p) => x.GetProperty(p)).GetDecimal();

    private static string? S(JsonElement e, string name) => e.GetProperty(name).GetString();

    private static string VerdictOf(decimal margin, decimal u) =>
        margin < 0 ? "beyond"
        : margin < u ? "tooClose"
        : "within";

    [Fact]
    public void Rotors() =>
        Gen.Select(
                Gen.Select(Degrees, Size, Gen.Int[0, 2]).Array[0, 12],
                Depth.Array[6],
                Doubt,
                Gen.Select(Size, Size, Size),
                Gen.Int[0, 40],
                Gen.Int[0, 3]
            )
            .Sample(
                (readings, f, u, limits, drop, known) =>
                    Send(
                        "assess/rotor",
                        Without(
                            new()
                            {
                                ["limits"] = new JsonObject
                                {
                                    ["discardMm"] = Math.Min(limits.Item1, limits.Item2),
                                    ["machineToMm"] = drop % 3 == 0 ? null : Math.Max(limits.Item1, limits.Item2),
                                    ["nominalMm"] = drop % 5 == 0 ? limits.Item3 : null,
                                },
                                ["uncertaintyMm"] = u,
                                ["readings"] = new JsonArray([
                                    .. readings.Select(r => new JsonObject
                                    {
                                        ["clockDeg"] = r.Item1,
                                        ["thicknessMm"] = r.Item2,
                                        ["radiusMm"] = drop % 4 == 0 ? 100 + 10 * r.Item3 : null,
                                    }),
                                ]),
                                ["faces"] = new JsonObject
                                {
                                    ["outer"] = new JsonObject { ["runoutMm"] = known % 2 == 0 ? f[0] : null, ["grooveMm"] = f[1] },
                                    ["inner"] = new JsonObject
                                    {
                                        ["runoutMm"] = known < 2 ? f[2] : null,
                                        ["grooveMm"] = f[3],
                                        ["reliefMm"] = f[4],
                                    },
                                },
                            },
                            drop
                        ),
                        a =>
                        {
                            if (readings.Length == 0)
                            {
                                S(a, "discardVerdict").ShouldBe("notEnough");
                                return;
                            }
                            var (least, greatest, tv) = (D(a, "leastMm"), D(a, "greatestMm"), D(a, "thicknessVariationMm"));
                            least.ShouldBe(readings.Min(r => r.Item2));
                            greatest.ShouldBe(readings.Max(r => r.Item2));
                            tv.ShouldBeInRange(0, greatest - least);
                            var places = readings
                                .Select(r => (drop % 4 == 0 ? r.Item3 : 0, (r.Item1 % 360 + 360) % 360))
                                .Distinct()
                                .GroupBy(p => p.Item1)
                                .Max(g => g.Count());
                            a.GetProperty("variationIsLowerBound").GetBoolean().ShouldBe(places < 8);
                            var (discard, machineTo) = (Math.Min(limits.Item1, limits.Item2), D(a, "machineToMm"));
                            machineTo.ShouldBeGreaterThanOrEqualTo(discard);
                            D(a, "stockToDiscardMm").ShouldBe(least - discard);
                            D(a, "stockToMachineToMm").ShouldBe(least - machineTo);
                            S(a, "discardVerdict").ShouldBe(places < 3 && least >= discard ? "notEnough" : VerdictOf(least - discard, u));
                            S(a, "machineToVerdict")
                                .ShouldBe(places < 3 && least >= machineTo ? "notEnough" : VerdictOf(least - machineTo, u));
                            var (touch, outer, inner) = (D(a, "touchMm"), D(a, "needMm", "outer"), D(a, "needMm", "inner"));
                            if (drop == 3)
                                return; // faces left out
                            outer.ShouldBeGreaterThanOrEqualTo(f[1]);
                            inner.ShouldBeGreaterThanOrEqualTo(f[3] + f[4]);
                            D(a, "leastFinishedMm").ShouldBe(touch - outer - inner, Rounding);
                            D(a, "touchBoundMm").ShouldBeLessThanOrEqualTo(greatest - u);
                            D(a, "touchCarefulMm").ShouldBeGreaterThanOrEqualTo(D(a, "touchBoundMm"));
                            if (a.GetProperty("fit").ValueKind == JsonValueKind.Object)
                                D(a, "fit", "leastMm").ShouldBeLessThanOrEqualTo(D(a, "fit", "meanMm") + Rounding);
                        }
                    ),
                iter: 300
            );

    [Fact]
    public void Drums() =>
        Gen.Select(Gen.Select(Degrees, Bore, Gen.Int[0, 2]).Array[0, 10], Depth, Depth, Doubt, Gen.Select(Bore, Bore), Gen.Int[0, 40])
            .Sample(
                (readings, e, groove, u, limits, drop) =>
                    Send(
                        "assess/drum",
                        Without(
                            new()
                            {
                                ["limits"] = new JsonObject
                                {
                                    ["discardMm"] = Math.Max(limits.Item1, limits.Item2),
                                    ["machineToMm"] = drop % 3 == 0 ? null : Math.Min(limits.Item1, limits.Item2),
                                },
                                ["uncertaintyMm"] = u,
                                ["eccentricityMm"] = drop % 2 == 0 ? e : null,
                                ["grooveMm"] = groove,
                                ["readings"] = new JsonArray([
                                    .. readings.Select(r => new JsonObject
                                    {
                                        ["axisDeg"] = r.Item1,
                                        ["diameterMm"] = r.Item2,
                                        ["depthMm"] = drop % 4 == 0 ? 10 + 15 * r.Item3 : null,
                                    }),
                                ]),
                            },
                            drop
                        ),
                        a =>
                        {
                            if (readings.Length == 0)
                            {
                                S(a, "discardVerdict").ShouldBe("notEnough");
                                return;
                            }
                            var (least, greatest, largest) = (D(a, "leastMm"), D(a, "greatestMm"), D(a, "largestMm"));
                            (least, greatest).ShouldBe((readings.Min(r => r.Item2), readings.Max(r => r.Item2)));
                            largest.ShouldBeGreaterThanOrEqualTo(decimal.Round(greatest, 4));
                            D(a, "machineToMm").ShouldBeLessThanOrEqualTo(Math.Max(limits.Item1, limits.Item2));
                            D(a, "stockToDiscardMm").ShouldBe(Math.Max(limits.Item1, limits.Item2) - largest, Rounding);
                            D(a, "stockToMachineToMm").ShouldBeLessThanOrEqualTo(D(a, "stockToDiscardMm") + Rounding);
                            if (D(a, "stockToDiscardMm") < -Rounding)
                                S(a, "discardVerdict").ShouldBe("beyond");
                            if (S(a, "discardVerdict") == "within")
                                D(a, "stockToDiscardMm").ShouldBeGreaterThanOrEqualTo(u - Rounding);
                            a.GetProperty("belowFloor").GetBoolean().ShouldBe(D(a, "stockToDiscardMm") < 0.75m);
                            var round = a.GetProperty("roundness");
                            D(round, "outOfRoundMm").ShouldBeGreaterThanOrEqualTo(0);
                            if (round.GetProperty("proven").GetBoolean())
                                D(round, "largestAxisDeg").ShouldBeInRange(0, 180);
                            D(a, "touchMm").ShouldBeLessThanOrEqualTo(greatest);
                            D(a, "touchCarefulMm").ShouldBeGreaterThanOrEqualTo(D(a, "touchMm"));
                            D(a, "touchBoundMm").ShouldBeGreaterThanOrEqualTo(least + u);
                            D(a, "cleanMm")
                                .ShouldBe(largest + (drop % 2 == 0 && drop != 2 ? 2 * e : 0) + (drop == 3 ? 0 : 2 * groove), 2 * Rounding);
                            D(a, "needMm", "bore").ShouldBe((D(a, "cleanMm") - D(a, "touchMm")) / 2, Rounding);
                        }
                    ),
                iter: 300
            );

    [Fact]
    public void Set_ups() =>
        Gen.Select(
                Gen.Bool,
                Degrees,
                Gen.Select(Degrees, Degrees, Degrees),
                Gen.Select(Depth, Depth, Depth, Depth),
                Gen.Int[0, 2],
                Gen.Int[0, 30]
            )
            .Sample(
                (drum, turned, deg, mm, mark, drop) =>
                {
                    JsonObject Mark(decimal at, decimal length) =>
                        mark switch
                        {
                            0 => new() { ["clockDeg"] = at, ["runoutMm"] = length },
                            1 => new()
                            {
                                ["clockDeg"] = at,
                                ["arcDeg"] = deg.Item3,
                                ["depthMm"] = length,
                            },
                            _ => new() { ["clockDeg"] = at, ["arcDeg"] = deg.Item3 },
                        };
                    Send(
                        "setup-check",
                        Without(
                            new()
                            {
                                ["kind"] = drum ? "drum" : "rotor",
                                ["turnedDeg"] = turned,
                                ["toleranceMm"] = mm.Item3,
                                ["divisionMm"] = mm.Item4,
                                ["first"] = Mark(deg.Item1, mm.Item1),
                                ["second"] = Mark(deg.Item2, mm.Item2),
                            },
                            drop
                        ),
                        a =>
                        {
                            S(a, "verdict").ShouldBeOneOf("true", "close", "remount", "mixed", "setUpAtFault", "cannotTell");
                            if (a.GetProperty("setUp").GetProperty("mm").ValueKind == JsonValueKind.Null)
                                return;
                            var (s, p, tolerance) = (
                                D(a, "setUp", "mm"),
                                D(a, "part", "mm"),
                                a.GetProperty("notes").ValueKind == JsonValueKind.Array && drop != 2 ? mm.Item3 : 0.025m
                            );
                            D(a, "leftOnVehicleMm").ShouldBe(drum ? s / 2 : s, Rounding);
                            // a vector is never longer than its parts together
                            D(a, "costMm").ShouldBeInRange(-Math.Min(s, p) - Rounding, s + Rounding);
                            D(a, "costNowMm").ShouldBeInRange(-Math.Min(s, p) - Rounding, s + Rounding);
                            D(a, "setUpShare").ShouldBeInRange(0, 1);
                            if (s < tolerance - Rounding)
                                S(a, "verdict").ShouldBe("true");
                            if (s > 2 * tolerance + Rounding)
                                S(a, "verdict").ShouldBe("remount");
                        }
                    );
                },
                iter: 300
            );

    [Fact]
    public void Plans() =>
        Gen.Select(
                Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool, Gen.Bool),
                Gen.Select(Size, Size, Size, Size),
                Gen.Select(Depth, Depth),
                Doubt,
                Gen.Select(Mm(0.001m, 0.05m, 5), Gen.Int[0, 40], Depth),
                Gen.Select(Depth, Depth, Gen.Int[0, 6], Gen.Int[0, 101])
            )
            .Sample(
                (yes, sizes, need, u, dial, own) =>
                {
                    var (drum, twin, confirmed, diameter) = yes;
                    var (division, drop, allowance) = dial;
                    var (machineTo, discard) = drum
                        ? (Math.Min(sizes.Item3, sizes.Item4), Math.Max(sizes.Item3, sizes.Item4))
                        : (Math.Max(sizes.Item3, sizes.Item4), Math.Min(sizes.Item3, sizes.Item4));
                    var sign = drum ? -1 : 1;
                    Send(
                        "passes/plan",
                        Without(
                            new()
                            {
                                ["kind"] = drum ? "drum" : "rotor",
                                ["touchMm"] = sizes.Item1,
                                ["touchBoundMm"] = sizes.Item1 - sign * u,
                                [drum ? "greatestMm" : "leastMm"] =
                                    drop % 2 == 0
                                        ? drum
                                            ? Math.Max(sizes.Item1, sizes.Item2)
                                            : Math.Min(sizes.Item1, sizes.Item2)
                                        : null,
                                ["machineToMm"] = machineTo,
                                ["discardMm"] = drop % 3 == 0 ? null : discard,
                                ["uncertaintyMm"] = u,
                                ["needMm"] = drum
                                    ? new JsonObject { ["bore"] = need.Item1 }
                                    : new JsonObject { ["outer"] = need.Item1, ["inner"] = need.Item2 },
                                ["dial"] = new JsonObject
                                {
                                    ["divisionMm"] = division,
                                    ["counts"] = diameter ? "diameter" : "depth",
                                    ["allowanceMm"] = allowance,
                                    ["confirmed"] = confirmed,
                                },
                                ["twinCutter"] = twin,
                                ["techniques"] =
                                    drop % 4 == 0
                                        ? null
                                        : new JsonArray(
                                            "working",
                                            "light",
                                            "grind",
                                            new JsonObject
                                            {
                                                ["key"] = "own",
                                                ["roughMinMm"] = Math.Min(own.Item1, own.Item2),
                                                ["roughMaxMm"] = Math.Max(own.Item1, own.Item2),
                                                ["finishMinMm"] = 0,
                                                ["finishMaxMm"] = own.Item1,
                                                ["minRough"] = Math.Min(own.Item3, own.Item4),
                                                ["maxRough"] = own.Item4,
                                            }
                                        ),
                            },
                            drop
                        ),
                        a =>
                        {
                            var options = a.GetProperty("options").EnumerateArray().ToList();
                            var q = diameter ? division / 2 : division;
                            foreach (var option in options)
                            {
                                var (feasible, passes) = (
                                    option.GetProperty("feasible").GetBoolean(),
                                    option.GetProperty("passes").EnumerateArray().ToList()
                                );
                                (S(option, "reason") is null).ShouldBe(feasible);
                                if (!feasible)
                                {
                                    passes.ShouldBeEmpty();
                                    continue;
                                }
                                PlanHolds(
                                    option,
                                    passes,
                                    drum ? ["bore"] : ["outer", "inner"],
                                    drum ? [need.Item1] : [need.Item1, need.Item2],
                                    q
                                );
                                decimal Inside(JsonElement pass, decimal limit) => sign * (D(pass, "boundAfterMm") - limit);
                                if (passes.Count == 0)
                                    continue;
                                var start = S(option, "start");
                                if (start != "blocked")
                                    Inside(passes[0], machineTo).ShouldBeGreaterThanOrEqualTo(0);
                                if (drop % 3 != 0 && drop != 5)
                                    (confirmed ? passes : passes.TakeWhile(p => !p.GetProperty("measureFirst").GetBoolean()))
                                        .Select(p => Inside(p, discard))
                                        .ShouldAllBe(inside => inside >= 0);
                                foreach (var pass in passes.Skip(1).Where(p => S(p, "kind") != "sparkOut" && Inside(p, machineTo) < 0))
                                    pass.GetProperty("measureFirst").GetBoolean().ShouldBeTrue();
                            }
                            if (S(a, "recommended") is { } key)
                            {
                                options.ShouldContain(o =>
                                    S(o, "key") == key && o.GetProperty("feasible").GetBoolean() && S(o, "start") != "blocked"
                                );
                                a.GetProperty("shortfall").ValueKind.ShouldBe(JsonValueKind.Null);
                            }
                            else
                                a.GetProperty("shortfall").GetProperty("text").GetString().ShouldNotBeNullOrEmpty();
                        }
                    );
                },
                iter: 400
            );

    private static void PlanHolds(JsonElement option, List<JsonElement> passes, string[] sides, decimal[] need, decimal q)
    {
        var metal = 0m;
        foreach (var (side, i) in sides.Select((s, i) => (s, i)))
        {
            var depth = passes.Sum(p => D(p, "depthMm", side));
            depth.ShouldBeGreaterThanOrEqualTo(need[i]);
            passes.ShouldAllBe(p => D(p, "depthMm", side) == p.GetProperty("divisions").GetProperty(side).GetInt64() * q);
            passes.ShouldAllBe(p => D(p, "cleanShare", side) >= 0 && D(p, "cleanShare", side) <= 1);
            metal += depth;
        }
        D(option, "metalMm").ShouldBe(metal);
        D(option, "wasteMm").ShouldBe(metal - need.Sum());
        D(option, "wasteMm").ShouldBeGreaterThanOrEqualTo(0);
    }

    [Fact]
    public void Judgements() =>
        Gen.Select(Gen.Select(Degrees, Size).Array[0, 12], Doubt, Depth, Gen.Select(Size, Size), Gen.Bool, Gen.Int[0, 30])
            .Sample(
                (readings, u, groove, limits, bored, drop) =>
                {
                    var drum = drop % 2 == 0;
                    var (discard, machineTo) = drum
                        ? (Math.Max(limits.Item1, limits.Item2), Math.Min(limits.Item1, limits.Item2))
                        : (Math.Min(limits.Item1, limits.Item2), Math.Max(limits.Item1, limits.Item2));
                    Send(
                        "judge",
                        Without(
                            new()
                            {
                                ["kind"] = drum ? "drum" : "rotor",
                                ["limits"] = new JsonObject { ["machineToMm"] = machineTo, ["discardMm"] = discard },
                                ["uncertaintyMm"] = u,
                                ["grooveLeftMm"] = groove,
                                ["reliefMm"] = 0,
                                [drum ? "boredHere" : "turnedBright"] = bored,
                                ["readings"] = new JsonArray([
                                    .. readings.Select(r =>
                                        drum
                                            ? new JsonObject { ["axisDeg"] = r.Item1, ["diameterMm"] = r.Item2 }
                                            : new JsonObject { ["clockDeg"] = r.Item1, ["thicknessMm"] = r.Item2 }
                                    ),
                                ]),
                            },
                            drop
                        ),
                        a =>
                        {
                            var decision = S(a, "decision");
                            if (readings.Length == 0)
                            {
                                decision.ShouldBe("measureAgain");
                                return;
                            }
                            var left = D(a, "leftToDiscardMm");
                            if (decision == "measureAgain")
                            {
                                a.GetProperty("probabilityWithinDiscard").ValueKind.ShouldBe(JsonValueKind.Null);
                                return;
                            }
                            var p = D(a, "probabilityWithinDiscard");
                            p.ShouldBeInRange(0, 0.999m);
                            (decision == "never").ShouldBe(S(a, "discardVerdict") == "beyond");
                            if (decision is not ("release" or "leadOnly"))
                                return;
                            // Nothing leaves whose margin does not hold uncertainty, what was not read, and the grooves that stay.
                            u.ShouldBeGreaterThan(0);
                            left.ShouldBeGreaterThanOrEqualTo(u + D(a, "allowanceMm") - Rounding);
                            if (drop != 3)
                                left.ShouldBeGreaterThanOrEqualTo(u + D(a, "allowanceMm") + (drum ? 2 : 1) * groove - Rounding);
                            p.ShouldBeGreaterThan(0.97m);
                            var margin = (drum ? -1 : 1) * (D(a, "worstMm") - machineTo);
                            if (decision == "release")
                                margin.ShouldBeGreaterThanOrEqualTo(u + D(a, "allowanceMm") - Rounding);
                        }
                    );
                },
                iter: 400
            );

    [Fact]
    public void Typed_lengths() =>
        Gen.Select(
                Gen.Frequency(
                    (2, Gen.String[Gen.Char[" 0123456789.,/+-tinmTHOU\"⅞½٣½é"], 0, 24]),
                    (
                        3,
                        Gen.Select(Gen.Int[0, 40], Gen.Int[1, 127], Gen.Int[1, 7], Gen.Int[0, 999])
                            .Select((w, n, d, t) => $"{w} {n}/{1 << d} + {t}t")
                    )
                ),
                Gen.Bool
            )
            .Sample((text, inch) => Send("lengths/parse", new() { ["text"] = text, ["unit"] = inch ? "in" : "mm" }, a =>
                    {
                        D(a, "millimetres").ShouldBeInRange(0.0000000001m, 2000);
                        D(a, "inches").ShouldBe(D(a, "millimetres") / 25.4m, 0.00000001m);
                        S(a, "echo")!
                            .ShouldContain(
                                D(a, "millimetres") >= 1 ? ((int)D(a, "millimetres")).ToString(CultureInfo.InvariantCulture) : "mm"
                            );
                    }), iter: 500);
}
