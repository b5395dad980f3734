using System.Net;
using System.Text;
using System.Text.Json;

namespace Uncial.Web.Tests;

/// <summary>The JSON face answers as its contract says, and nothing that is sent to it makes it fall over.</summary>
public class ApiTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const string Rotor = """
        {"limits":{"nominalMm":26.0,"machineToMm":23.4,"discardMm":23.0},"uncertaintyMm":0.006,"touchRadiusMm":120,
        "readings":[{"clockDeg":0,"radiusMm":120,"thicknessMm":24.31},{"clockDeg":45,"radiusMm":120,"thicknessMm":24.33},
        {"clockDeg":90,"radiusMm":120,"thicknessMm":24.36},{"clockDeg":135,"radiusMm":120,"thicknessMm":24.38},
        {"clockDeg":180,"radiusMm":120,"thicknessMm":24.37},{"clockDeg":225,"radiusMm":120,"thicknessMm":24.35},
        {"clockDeg":270,"radiusMm":120,"thicknessMm":24.32},{"clockDeg":315,"radiusMm":120,"thicknessMm":24.30}],
        "faces":{"outer":{"runoutMm":0.09,"grooveMm":0.05,"reliefMm":0},"inner":{"runoutMm":0.05,"grooveMm":0.02}}}
        """;

    private const string Plan = """
        {"kind":"rotor","touchMm":24.41,"touchBoundMm":24.374,"leastMm":24.30,"machineToMm":23.4,"discardMm":23.0,
        "uncertaintyMm":0.006,"needMm":{"outer":0.14,"inner":0.07},
        "dial":{"divisionMm":0.01,"counts":"depth","allowanceMm":0,"confirmed":true},"twinCutter":true,"defaultTechnique":"working",
        "techniques":["working",{"key":"ours","roughMinMm":0.02,"roughMaxMm":0.08,"finishMinMm":0.02,"finishMaxMm":0.08,
        "minRough":0,"maxRough":9}]}
        """;

    private const string Drum = """
        {"limits":{"nominalMm":228.6,"machineToMm":229.6,"discardMm":230.1},"uncertaintyMm":0.01,"eccentricityMm":0,"grooveMm":0.05,
        "touchDepthMm":10,
        "readings":[{"axisDeg":0,"depthMm":10,"diameterMm":228.62},{"axisDeg":45,"depthMm":10,"diameterMm":228.74},
        {"axisDeg":90,"depthMm":10,"diameterMm":228.62},{"axisDeg":0,"depthMm":40,"diameterMm":228.60}]}
        """;

    private const string SetUp = """
        {"kind":"drum","turnedDeg":180,"toleranceMm":0.025,"divisionMm":0.01,"first":{"clockDeg":40,"arcDeg":170,"depthMm":0.02},
        "second":{"clockDeg":70,"arcDeg":190,"depthMm":0.03}}
        """;

    private const string Finished = """
        {"kind":"drum","limits":{"machineToMm":229.6,"discardMm":230.1},"uncertaintyMm":0.02,"grooveLeftMm":0.01,"boredHere":true,
        "readings":[{"axisDeg":0,"depthMm":10,"diameterMm":229.1},{"axisDeg":90,"depthMm":10,"diameterMm":229.12},
        {"axisDeg":45,"depthMm":10,"diameterMm":229.11}]}
        """;

    private async Task<(HttpStatusCode Status, JsonElement Body)> Post(string path, string json)
    {
        using var caller = shop.Caller();
        using var content = new StringContent(json, Encoding.UTF8, "application/json");
        using var answer = await caller.PostAsync(
            new Uri("/api/v1/" + path, UriKind.Relative),
            content,
            TestContext.Current.CancellationToken
        );
        return (
            answer.StatusCode,
            JsonSerializer.Deserialize<JsonElement>(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))
        );
    }

    private async Task<JsonElement> Good(string path, string json)
    {
        var (status, body) = await Post(path, json);
        status.ShouldBe(HttpStatusCode.OK, body.ToString());
        return body;
    }

    [Fact]
    public async Task Lengths_are_read_and_echoed()
    {
        (await Good("lengths/parse", """{"text":"8 7/8 + 132t","unit":"in"}"""))
            .GetRawText()
            .ShouldBe("""{"millimetres":228.7778,"inches":9.007,"echo":"8 7/8 + 132t = 8.875 + 0.132 = 9.007 in = 228.7778 mm"}""");
        (await Good("lengths/parse", """{"text":"24.31","unit":"mm"}""")).GetProperty("inches").GetRawText().ShouldBe("0.95708661");
        var (status, body) = await Post("lengths/parse", """{"text":"8 7/8","unit":"mm"}""");
        status.ShouldBe(HttpStatusCode.BadRequest);
        body.GetProperty("position").GetInt32().ShouldBe(2);
        body.GetProperty("errors").GetProperty("text")[0].GetString()!.ShouldContain("inches");
    }

    [Fact]
    public async Task The_rotor_of_the_contract()
    {
        var body = await Good("assess/rotor", Rotor);
        string Raw(string name) => body.GetProperty(name).GetRawText();
        (Raw("touchMm"), Raw("touchBoundMm"), Raw("leastFinishedMm"), Raw("thicknessVariationMm")).ShouldBe(
            ("24.41", "24.374", "24.2", "0.08")
        );
        (Raw("needMm"), Raw("discardVerdict"), Raw("figuresAgree")).ShouldBe(("""{"outer":0.14,"inner":0.07}""", "\"within\"", "true"));
        body.GetProperty("fit").GetProperty("meanMm").GetDecimal().ShouldBe(24.34m);
    }

    [Fact]
    public async Task The_drum_the_plan_the_set_up_and_the_judgement_of_the_contract()
    {
        var drum = await Good(
            "assess/drum",
            """
            {"limits":{"nominalMm":228.6,"discardMm":230.1},"uncertaintyMm":0.01,"eccentricityMm":0,"grooveMm":0.05,
            "touchDepthMm":10,"readings":[{"axisDeg":0,"depthMm":10,"diameterMm":228.62},
            {"axisDeg":45,"depthMm":10,"diameterMm":228.74},{"axisDeg":90,"depthMm":10,"diameterMm":228.62},
            {"axisDeg":315,"depthMm":10,"diameterMm":228.50}]}
            """
        );
        drum.GetProperty("roundness").GetRawText().ShouldBe("""{"proven":true,"outOfRoundMm":0.24,"largestAxisDeg":45,"meanMm":228.62}""");
        (
            drum.GetProperty("machineToMm").GetDecimal(),
            drum.GetProperty("machineToDerived").GetBoolean(),
            drum.GetProperty("taperMm").ValueKind
        ).ShouldBe((229.35m, true, JsonValueKind.Null));

        var plan = await Good("passes/plan", Plan);
        plan.GetProperty("recommended").GetString().ShouldBe("working");
        plan.GetProperty("options").GetArrayLength().ShouldBe(2);
        var pass = plan.GetProperty("options")[0].GetProperty("passes")[0];
        (
            pass.GetProperty("divisions").GetProperty("outer").GetInt32(),
            pass.GetProperty("boundAfterMm").GetDecimal(),
            plan.GetProperty("options")[1].GetProperty("metalMm").GetDecimal()
        ).ShouldBe((14, 24.134m, 0.21m));

        var setUp = await Good(
            "setup-check",
            """
            {"kind":"rotor","turnedDeg":180,"toleranceMm":0.025,"divisionMm":0.01,"first":{"clockDeg":40,"runoutMm":0.07},
            "second":{"clockDeg":70,"runoutMm":0.05}}
            """
        );
        setUp.GetProperty("part").GetProperty("mm").GetDecimal().ShouldBe(0.0580m, 0.00005m);
        setUp.GetProperty("part").GetProperty("clockDeg").GetDecimal().ShouldBe(52.4m, 0.05m);
        setUp.GetProperty("setUp").GetProperty("mm").GetDecimal().ShouldBe(0.0183m, 0.00005m);
        setUp.GetProperty("setUp").GetProperty("clockDeg").GetDecimal().ShouldBe(356.9m, 0.05m);
        (setUp.GetProperty("costMm").GetDecimal(), setUp.GetProperty("costNowMm").GetDecimal()).ShouldBe((0.0120m, -0.0080m));
        setUp.GetProperty("verdict").GetString().ShouldBe("true");

        var judged = await Good(
            "judge",
            """
            {"kind":"rotor","limits":{"machineToMm":23.4,"discardMm":23.0},"uncertaintyMm":0.006,"grooveLeftMm":0,"reliefMm":0,
            "turnedBright":false,"readings":[{"clockDeg":0,"thicknessMm":23.41},{"clockDeg":120,"thicknessMm":23.42},
            {"clockDeg":240,"thicknessMm":23.43}]}
            """
        );
        (
            judged.GetProperty("decision").GetString(),
            judged.GetProperty("worstMm").GetDecimal(),
            judged.GetProperty("allowanceMm").GetDecimal()
        ).ShouldBe(("leadOnly", 23.41m, 0.03m));
        judged.GetProperty("probabilityWithinDiscard").GetDecimal().ShouldBe(0.999m);
    }

    /// <summary>What a caller does not say was not looked at; bright metal has no low lands, but may be out of parallel.</summary>
    [Theory]
    [InlineData(""" "reliefMm":0 """, "measureAgain", "groove", 0.01)]
    [InlineData(""" "grooveLeftMm":0 """, "measureAgain", "relief", 0.01)]
    [InlineData(""" "grooveLeftMm":null,"reliefMm":null,"turnedBright":true """, "measureAgain", "groove", 0.02)]
    [InlineData(""" "grooveLeftMm":0,"turnedBright":true """, "release", null, 0.02)]
    [InlineData(""" "grooveLeftMm":0,"turnedBright":true,"parallelismMm":0.175 """, "leadOnly", null, 0.175)]
    [InlineData(""" "grooveLeftMm":0,"reliefMm":0 """, "release", null, 0.01)]
    [InlineData(""" "grooveLeftMm":0,"reliefMm":0,"depthDoubtMm":0.1 """, "leadOnly", null, 0.01)]
    [InlineData(""" "grooveLeftMm":0.06,"reliefMm":0.07 """, "leadOnly", null, 0.01)]
    public async Task What_a_caller_leaves_out_is_not_looked_at(string said, string decision, string? asked, decimal allowance)
    {
        // 0.18 to machine-to, 0.58 to discard.
        var around = string.Join(',', Enumerable.Range(0, 8).Select(i => $$"""{"clockDeg":{{i * 45}},"thicknessMm":23.58}"""));
        var judged = await Good(
            "judge",
            $$"""{"kind":"rotor","limits":{"machineToMm":23.4,"discardMm":23.0},"uncertaintyMm":0.006,{{said}},"readings":[{{around}}]}"""
        );
        (judged.GetProperty("decision").GetString(), judged.GetProperty("allowanceMm").GetDecimal()).ShouldBe((decision, allowance));
        judged
            .GetProperty("probabilityWithinDiscard")
            .ValueKind.ShouldBe(decision == "measureAgain" ? JsonValueKind.Null : JsonValueKind.Number);
        var notes = judged.GetProperty("notes").EnumerateArray().ToList();
        notes.Count(n => n.GetProperty("code").GetString() == "notLookedAt").ShouldBe(asked is null ? 0 : 1);
        if (asked is not null)
            notes.ShouldContain(n => n.GetProperty("text").GetString()!.Contains(asked == "groove" ? "grooves" : "low lands"));
    }

    [Fact]
    public async Task One_reading_is_not_enough_for_assess_and_judge_alike()
    {
        foreach (var (path, extra) in new[] { ("assess/rotor", ""), ("judge", "\"kind\":\"rotor\",") })
            (
                await Good(
                    path,
                    "{"
                        + extra
                        + """ "limits":{"machineToMm":23.4,"discardMm":23.0},"uncertaintyMm":0.006,"""
                        + """ "readings":[{"clockDeg":0,"thicknessMm":24}]}"""
                )
            )
                .GetProperty("discardVerdict")
                .GetString()
                .ShouldBe("notEnough");
        // Three axes within a quarter turn leave an oval unsure: 0.015 inside is too close for both.
        const string drum = """
            "limits":{"machineToMm":229.015,"discardMm":229.015},"uncertaintyMm":0.01,"readings":[{"axisDeg":0,"diameterMm":228.95},
            {"axisDeg":30,"diameterMm":229.0},{"axisDeg":60,"diameterMm":228.95},{"axisDeg":90,"diameterMm":228.85}]}
            """;
        (await Good("assess/drum", "{" + drum)).GetProperty("discardVerdict").GetString().ShouldBe("tooClose");
        (await Good("judge", """{"kind":"drum",""" + drum)).GetProperty("discardVerdict").GetString().ShouldBe("tooClose");
    }

    [Theory]
    [InlineData(
        "assess/rotor",
        """
            {"limits":{"discardMm":23},"uncertaintyMm":0.01,"readings":[{"clockDeg":0,"thicknessMm":24},
            {"clockDeg":90,"thicknessMm":24},{"clockDeg":180,"thicknessMm":-1}]}
            """,
        "readings[2].thicknessMm"
    )]
    [InlineData("assess/rotor", """{"limits":{"discardMm":23},"uncertaintyMm":0.01,"colour":"red","readings":[]}""", "colour")]
    [InlineData(
        "assess/rotor",
        """{"limits":{"discardMm":23},"uncertaintyMm":0.01,"readings":[{"clockDeg":0,"thicknessMm":"24"}]}""",
        "readings[0].thicknessMm"
    )]
    [InlineData(
        "assess/rotor",
        """{"limits":{"machineToMm":22,"discardMm":23},"uncertaintyMm":0.01,"readings":[]}""",
        "limits.machineToMm"
    )]
    [InlineData("assess/drum", """{"uncertaintyMm":9,"limits":{"discardMm":230},"readings":[]}""", "uncertaintyMm")]
    [InlineData("assess/drum", """{"uncertaintyMm":0,"limits":{"discardMm":230}}""", "readings")]
    [InlineData(
        "passes/plan",
        """
            {"kind":"rotor","touchMm":24.41,"touchBoundMm":30,"machineToMm":23.4,"uncertaintyMm":0.006,"needMm":{"outer":0.1,
            "inner":0.1},"dial":{"divisionMm":0.01}}
            """,
        "touchBoundMm"
    )]
    [InlineData(
        "passes/plan",
        """
            {"kind":"drum","touchMm":228.5,"touchBoundMm":228.4,"machineToMm":229.4,"uncertaintyMm":0.006,"needMm":{"bore":0.1},
            "dial":{"divisionMm":0.01}}
            """,
        "touchBoundMm"
    )]
    [InlineData(
        "passes/plan",
        """
            {"kind":"rotor","touchMm":24.41,"touchBoundMm":24.374,"leastMm":24.39,"machineToMm":23.4,"uncertaintyMm":0.006,
            "needMm":{"outer":0.1,"inner":0.1},"dial":{"divisionMm":0.01}}
            """,
        "leastMm"
    )]
    [InlineData(
        "judge",
        """{"kind":"drum","limits":{"discardMm":230},"uncertaintyMm":0.01,"turnedBright":true,"boredHere":false,"readings":[]}""",
        "boredHere"
    )]
    [InlineData(
        "setup-check",
        """{"kind":"rotor","turnedDeg":370,"first":{"clockDeg":0,"runoutMm":0.1},"second":{"clockDeg":0,"runoutMm":0.1}}""",
        "turnedDeg"
    )]
    [InlineData(
        "setup-check",
        """{"kind":"rotor","turnedDeg":180,"first":{"clockDeg":0,"runoutMm":0.1},"second":{"clockDeg":0,"arcDeg":90}}""",
        "second"
    )]
    [InlineData("passes/plan", """{"kind":"sprocket"}""", "kind")]
    [InlineData("judge", "[]", "body")]
    [InlineData("judge", "{", "body")]
    public async Task What_is_wrong_is_named_by_its_path(string path, string json, string field)
    {
        var (status, body) = await Post(path, json);
        status.ShouldBe(HttpStatusCode.BadRequest);
        body.GetProperty("errors").TryGetProperty(field, out _).ShouldBeTrue(body.ToString());
    }

    [Fact]
    public async Task No_mangled_request_makes_it_fall_over()
    {
        var random = new Random(7);
        string[] values =
        [
            "null",
            "-1",
            "0",
            "1e400",
            "1e-27",
            "79228162514264337593543950335",
            "\"x\"",
            "[]",
            "{}",
            "true",
            "2000",
            "0.0000000000000000000000000001",
        ];
        foreach (
            var (path, good) in new[]
            {
                ("assess/rotor", Rotor),
                ("passes/plan", Plan),
                ("assess/drum", Drum),
                ("setup-check", SetUp),
                ("judge", Finished),
            }
        )
        {
            (await Post(path, good)).Status.ShouldBe(HttpStatusCode.OK, path);
            for (var i = 0; i < 120; i++)
            {
                // Any one value of a good request replaced by something nobody would send.
                var colons = Enumerable.Range(0, good.Length).Where(k => good[k] == ':').ToList();
                var at = colons[random.Next(colons.Count)] + 1;
                var end = good.IndexOfAny([',', '}', ']'], at);
                var mangled = good[..at] + values[random.Next(values.Length)] + good[end..];
                var (status, body) = await Post(path, mangled);
                ((int)status).ShouldBeOneOf([200, 400], mangled + " → " + body);
            }
        }
        var (large, _) = await Post("judge", "{\"kind\":\"" + new string('x', 300_000) + "\"}");
        large.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Health_and_description_answer_anybody_and_pages_only_those_signed_in()
    {
        using var caller = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }) { BaseAddress = shop.Address };
        (await caller.GetAsync(new Uri("/health", UriKind.Relative), TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );
        (await caller.GetStringAsync(new Uri("/openapi/v1.json", UriKind.Relative), TestContext.Current.CancellationToken)).ShouldContain(
            "/api/v1/assess/drum"
        );
        foreach (var path in new[] { "/", "/logbook", "/receive", "/measure/TQA4R", "/part/TQA4R", "/tag/TQA4R", "/preferences" })
        {
            var answer = await caller.GetAsync(new Uri(path, UriKind.Relative), TestContext.Current.CancellationToken);
            (answer.StatusCode, answer.Headers.Location?.ToString()).ShouldSatisfyAllConditions(
                a => a.StatusCode.ShouldBe(HttpStatusCode.Redirect),
                a => a.Item2!.ShouldContain("/SignIn")
            );
        }
    }
}
