using CsCheck;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>
/// What leads the operator at the machine: passes moved by hand, starting, time, chatter, finishing, swarf, read-out, the surface.
/// </summary>
public class AtTheLatheTests
{
    private static readonly Dial Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true);

    private static readonly PlanRequest Rotor = new()
    {
        Kind = PartKind.Rotor,
        Touch = Mm.Of(24.41m),
        TouchBound = Mm.Of(24.374m),
        Worst = Mm.Of(24.30m),
        MachineTo = Mm.Of(23.9m),
        Discard = Mm.Of(23.6m),
        Uncertainty = Mm.Of(0.006m),
        Sides = [new(Mm.Of(0.14m)), new(Mm.Of(0.07m))],
        Dial = Dial,
    };

    private static readonly Technique Working = Technique.BuiltIn[0];

    private static PlanOption Set(string passes) => PassPlanner.ByHand(Rotor, Working, HandPasses.Read(passes, 2)!, ShopRules.Default);

    private static HandPasses Hand(string passes) => new(HandPasses.Read(passes, 2)!, Mm.Of(0.25m), Dial);

    [Theory]
    [InlineData("R10-6.F12-10", 0, 0, 2, "R12-6.F10-10")] // the next pass gives what this one gains
    [InlineData("R10-6.F12-10", 1, 1, 3, "R10-6.F12-13")] // the last line moves the whole
    [InlineData("R10-6.F12-10", 0, 0, 99, "R21-6.F1-10")] // a division stays with the next
    [InlineData("R10-6.F24-10", 0, 0, -99, "R9-6.F25-10")] // no pass gets heavier than the heaviest
    [InlineData("R10-0.F12-0.R0-4.F0-9", 1, 0, -20, "R10-0.F1-0.R0-4.F0-9")]
    [InlineData("R10-0.F12-0.R0-4.F0-9", 0, 1, 5, "R10-0.F12-0.R0-4.F0-9")] // a side that it does not cut
    [InlineData("R30-6.F12-10", 0, 0, 1, "R30-6.F12-10")] // outside already: only back
    public void A_line_moves_by_divisions_between_its_neighbours(string from, int pass, int side, int by, string to)
    {
        var hand = Hand(from);
        hand.Move(pass, side, by);
        hand.Write().ShouldBe(to);
    }

    [Fact]
    public void Passes_are_lifted_out_and_put_in()
    {
        var hand = Hand("R10-6.F12-10");
        hand.Add(1, 4);
        hand.Write().ShouldBe("R10-6.R4-4.F12-10");
        hand.Lift(0);
        hand.Write().ShouldBe("R4-4.F12-10");
        hand.Lift(1);
        hand.Lift(0);
        hand.Write().ShouldBe("R4-4");
        HandPasses.Read("R2-0.S0-0", 2).ShouldNotBeNull();
        foreach (var bad in new[] { null, "", "R1", "X1-1", "R1-1.", "R-1-2", "F0-0", "S1-0", "R1-1-1", "R123456-1" })
            HandPasses.Read(bad, 2).ShouldBeNull(bad);
    }

    [Theory]
    [InlineData("R5-5.F5-5", true, "working", true)]
    [InlineData("R5-0.F5-5", true, "working", false)] // the bits of a twin cutter hold each other
    [InlineData("R5-5.S0-0", true, "working", false)]
    [InlineData("R5-0.F3-0.F0-4", false, "working", true)]
    [InlineData("R5-5.F3-0", false, "working", false)] // a single tool cuts one side
    [InlineData("F0-4.F3-0", false, "working", false)] // turned round once only
    [InlineData("R5-0.S0-0.R0-2.S0-0", false, "grind", true)]
    [InlineData("R5-0.F1-0", false, "grind", false)]
    [InlineData("S0-0", false, "grind", false)]
    public void Only_what_the_machine_can_do_is_a_pass(string passes, bool twin, string technique, bool canBeMade) =>
        HandPasses
            .CanBeMade(HandPasses.Read(passes, 2)!, Rotor with { TwinCutter = twin }, Technique.BuiltIn.Single(t => t.Key == technique))
            .ShouldBe(canBeMade);

    [Fact]
    public void Whatever_is_moved_stays_whole_and_between_one_division_and_the_heaviest() =>
        Gen.Select(Gen.Int[0, 4], Gen.Int[0, 1], Gen.Int[-40, 40])
            .Array[1, 40]
            .Sample(moves =>
            {
                var hand = Hand("R10-6.R8-8.F12-10");
                foreach (var (pass, side, by) in moves)
                    hand.Move(pass, side, by);
                hand.Passes.SelectMany(p => p.Divisions).ShouldAllBe(d => d >= 1 && d <= 25);
                HandPasses
                    .Read(hand.Write(), 2)!
                    .Select(p => string.Join('-', p.Divisions))
                    .ShouldBe(hand.Passes.Select(p => string.Join('-', p.Divisions)));
            });

    [Fact]
    public void Passes_set_by_hand_are_computed_like_any_plan()
    {
        // The very passes that a technique gives come out the same, to the last figure.
        var planned = PassPlanner.Plan(Rotor).Options.Single(o => o.Key == "light");
        var same = Set(
            string.Join('.', planned.Passes.Select(p => (p.Kind == PassKind.Rough ? "R" : "F") + string.Join('-', p.Divisions)))
        );
        (same.Metal, same.Waste, same.ByHand, same.CanStart).ShouldBe((planned.Metal, planned.Waste, true, true));
        for (var i = 0; i < planned.Passes.Count; i++)
            (same.Passes[i].SizeAfter, same.Passes[i].BoundAfter, same.Passes[i].MeasureFirst).ShouldBe(
                (planned.Passes[i].SizeAfter, planned.Passes[i].BoundAfter, planned.Passes[i].MeasureFirst)
            );
        Set("F12-10").Notes.ShouldContain(n => n is Note.StaysDark && n.Length == Mm.Of(0.02m) && n.Subject == "outer");
        Set("F14-8")
            .Notes.ShouldContain(n => n is Note.PassShallow && n.Length == Mm.Of(0.08m) && n.Second == Mm.Of(0.10m) && n.Subject == "1");
        Set("R15-15.F20-10")
            .Notes.ShouldContain(n => n is Note.PassDeep && n.Length == Mm.Of(0.20m) && n.Second == Mm.Of(0.15m) && n.Subject == "2");
        Set("F26-10").Refusal.ShouldBe(PlanRefusal.TooHeavy);
        var much = Set("R25-20.R20-20");
        (much.Refusal, much.Passes.Count).ShouldBe((PlanRefusal.Budget, 2));
        Set("R24-24").Start.ShouldBe(PlanStart.Blocked);
        Set("R10-10.F15-15").Passes[1].MeasureFirst.ShouldBeTrue();
    }

    [Fact]
    public void What_could_end_past_machine_to_is_measured_first_and_past_discard_never_started()
    {
        PlannedPass Pass(decimal bound, bool measureFirst = false) =>
            new(PassKind.Rough, [1, 1], [Mm.Of(0.01m), Mm.Of(0.01m)], [], Mm.Of(24), Mm.Of(bound), measureFirst, [1, 1]);
        PassStart.Refuses(Rotor, Pass(23.9m), false, false).ShouldBeNull();
        PassStart.Refuses(Rotor, Pass(23.899m), true, false).ShouldBe(StartRefusal.PastMachineTo);
        PassStart.Refuses(Rotor, Pass(23.899m), true, true).ShouldBeNull();
        PassStart.Refuses(Rotor, Pass(23.95m, true), false, true).ShouldBe(StartRefusal.MeasureFirst);
        PassStart.Refuses(Rotor, Pass(23.95m, true), true, false).ShouldBeNull();
        // the plan is made anew from the size first
        PassStart.Refuses(Rotor, Pass(23.8m, true), true, true).ShouldBe(StartRefusal.MeasureFirst);
        PassStart.Refuses(Rotor, Pass(23.599m, true), true, true).ShouldBe(StartRefusal.PastDiscard);
        PassStart.Refuses(Rotor with { Discard = null }, Pass(23.5m), true, true).ShouldBeNull();
        var drum = Rotor with { Kind = PartKind.Drum, MachineTo = Mm.Of(229), Discard = Mm.Of(230), Sides = [new(Mm.Of(0.1m))] };
        PassStart.Refuses(drum, Pass(229.01m), false, false).ShouldBe(StartRefusal.PastMachineTo);
        PassStart.Refuses(drum, Pass(230.01m), true, true).ShouldBe(StartRefusal.PastDiscard);
    }

    [Fact]
    public void The_metal_says_how_much_more_a_side_needs()
    {
        var request = Rotor with { Sides = [new(Mm.Of(0.14m), Runout: Mm.Of(0.14m), RunoutAssumed: true), new(Mm.Of(0.07m))] };
        var plan = PassPlanner.Plan(request).Options.Single(o => o.Key == "two-fast-one-slow");
        AfterPass Seen(int clean, Length? groove) =>
            AfterPass.Read(
                request,
                [plan.Passes[0]],
                [.. plan.Passes.Skip(1)],
                [new(clean, null), new(12, groove)],
                null,
                ShopRules.Default
            );
        var cut = plan.Passes[0].Depth[0];
        var more = Seen(3, Length.Zero);
        var note = more.Notes.Single(n => n is Note.NeedsMore);
        (note.Subject, note.Second).ShouldBe(("outer", more.Request.Sides[0].Need));
        note.Length.ShouldBe(more.Request.Sides[0].Need - (Mm.Of(0.14m) - cut));
        // A full ring without a groove: nothing more is needed there, and it says so.
        more.Notes.ShouldContain(n => n is Note.NeedsLess && n.Subject == "inner" && n.Length == Mm.Of(0.07m) - plan.Passes[0].Depth[1]);
        // A groove on cut metal is believed beside dark places, too.
        var known = request with { Sides = [request.Sides[0] with { RunoutAssumed = false }, request.Sides[1]] };
        AfterPass
            .Read(known, [plan.Passes[0]], [], [new(6, Mm.Of(0.2m)), new(12, null)], null, ShopRules.Default)
            .Request.Sides[0]
            .Need.ShouldBe(Mm.Of(0.2m));
        Seen(12, Mm.Of(0.03m)).Notes.ShouldContain(n => n is Note.NeedsMore && n.Subject == "inner" && n.Second == Mm.Of(0.03m));
    }

    [Fact]
    public void A_lathe_is_as_slow_as_its_last_passes_were()
    {
        PassTime.Overrun([(2m, 2.4m), (2m, 2.4m)]).ShouldBe(1m);
        PassTime.Overrun([(2m, 2.4m), (1m, 1.3m), (2m, 60m)]).ShouldBe(1.3m); // one that was left alone does not move it
        PassTime.Overrun([(2m, 2.4m), (0m, 9m), (1m, 1.3m), (2m, 2.2m), (2m, 2.4m)]).ShouldBe(1.2m);
        PassTime.Overrun(Enumerable.Repeat((1m, 1m), 12).Append((1m, 3m)).Append((1m, 3m))).ShouldBe(1m);
        PassTime.Overrun(Enumerable.Repeat((1m, 20m), 3)).ShouldBe(3m);
        PassTime.Seconds(2.5m, 1.2m).ShouldBe(180);
    }

    [Fact]
    public void Chatter_is_damped_first_and_what_helped_here_comes_before_what_did_not()
    {
        ChatterFacts Facts(ChatterSign? sign, bool band = true) =>
            new()
            {
                Kind = PartKind.Rotor,
                Pass = PassKind.Rough,
                Depth = Mm.Of(0.2m),
                Diameter = Mm.Of(280),
                HasBand = band,
                Sign = sign,
            };
        IReadOnlyList<ChatterRemedy> For(ChatterFacts facts, Dictionary<ChatterRemedy, int>? helped = null) =>
            Chatter.Of(facts, ShopRules.Default, helped).Remedies;
        For(Facts(ChatterSign.Rumble, band: false))
            .ShouldBe([
                ChatterRemedy.Band,
                ChatterRemedy.ShortenOverhang,
                ChatterRemedy.MoreDamping,
                ChatterRemedy.SlowerOrLighter,
                ChatterRemedy.DeeperOrFaster,
            ]);
        For(Facts(ChatterSign.Rubbing))[0].ShouldBe(ChatterRemedy.DeeperOrFaster);
        For(Facts(ChatterSign.Torn)).Take(2).ShouldBe([ChatterRemedy.FreshEdge, ChatterRemedy.MoreDamping]);
        For(Facts(ChatterSign.Ringing, band: false), new() { [ChatterRemedy.SlowerOrLighter] = 2, [ChatterRemedy.MoreDamping] = 1 })
            .ShouldBe([ChatterRemedy.Band, ChatterRemedy.SlowerOrLighter, ChatterRemedy.MoreDamping, ChatterRemedy.DeeperOrFaster]);
        For(Facts(null)).ShouldBeUnique();
    }

    [Fact]
    public void Finishing_goes_by_the_kind_of_part()
    {
        FinishStep
            .For(PartKind.Rotor, false, false)
            .Select(s => (s.Kind, s.Seconds))
            .ShouldBe([
                (FinishStepKind.CrossHatchOuter, 60),
                (FinishStepKind.CrossHatchInner, 60),
                (FinishStepKind.Edges, 0),
                (FinishStepKind.Wash, 0),
                (FinishStepKind.Hands, 0),
            ]);
        FinishStep
            .For(PartKind.Drum, false, true)
            .Select(s => s.Kind)
            .ShouldBe([FinishStepKind.CrossHatchBore, FinishStepKind.Edges, FinishStepKind.Hub, FinishStepKind.Wash, FinishStepKind.Hands]);
        FinishStep.For(PartKind.Rotor, true, false)[0].Kind.ShouldBe(FinishStepKind.Edges);
    }

    [Fact]
    public void Iron_is_weighed_by_the_dial_and_the_bin_says_when_it_is_due()
    {
        // Ring 280 over 184: 34 985 mm² · 0.24 mm · 7.2 g/cm³; drum π · 228 · 45 · 0.2.
        Lathe.IronOf(PartKind.Rotor, [Mm.Of(0.14m), Mm.Of(0.10m)], Mm.Of(280), Mm.Of(48)).ShouldBe(60.5m);
        Lathe.IronOf(PartKind.Drum, [Mm.Of(0.2m)], Mm.Of(228), Mm.Of(45)).ShouldBe(46.4m);
        Lathe.IronOf(PartKind.Drum, [Mm.Of(0.2m)], Mm.Of(0), Mm.Of(45)).ShouldBe(0);
        new[] { 15_999m, 16_000m, 19_999m, 20_000m }
            .Select(g => new SwarfBin(g, 20_000m).State)
            .ShouldBe([BinState.Room, BinState.Soon, BinState.Soon, BinState.Due]);
    }

    [Fact]
    public void A_drive_behind_gears_is_set_to_the_fastest_that_the_tool_bears()
    {
        var lathe = new Lathe
        {
            Name = "Capstan",
            Division = Mm.Of(0.02m),
            DialAllowance = Mm.Of(0.02m),
            NoseRadius = Mm.Of(0.8m),
            Speeds = [1m],
            Gears = [80m, 160m],
            Drive = new(0.5m, 1.1m),
            FastestSurface = 90,
            Feeds = [new("A", Mm.Of(0.2m))],
            RoughFeed = "A",
            FinishFeed = "A",
        };
        var run = lathe.Run(PassKind.Rough, PartKind.Rotor, Mm.Of(280), Mm.Of(48));
        (run.TurnsPerMinute, run.Gear, run.Fraction).ShouldBe((102m, 160m, 0.6375m)); // 80 · 1.1 stays under it
        run.SurfaceSpeed.ShouldBe(Math.PI * 280 * 102 / 1000, 1e-9);
        run.SurfaceAtInnerEdge.ShouldBe(Math.PI * 184 * 102 / 1000, 1e-9);
        var slow = lathe.Run(PassKind.Rough, PartKind.Rotor, Mm.Of(900), Mm.Of(48));
        (slow.TooFast, slow.TurnsPerMinute, slow.Gear, slow.Fraction).ShouldBe((true, 40m, 80m, 0.5m));
    }

    [Theory]
    [InlineData("Quay slow", 0.05, 0.10, 0.05, 0.08, 0, 8, null)]
    [InlineData("Dry spark", 0.005, 0.02, 0, 0, 1, 50, null)]
    [InlineData("One", 0, 0, 0.1, 0.2, 0, 0, null)]
    [InlineData(" ", 0.05, 0.10, 0.05, 0.08, 0, 8, TechniqueFault.Name)]
    [InlineData("WORKING CUT", 0.05, 0.10, 0.05, 0.08, 0, 8, TechniqueFault.NameTaken)]
    [InlineData("A", 0.12, 0.10, 0.05, 0.08, 0, 8, TechniqueFault.RoughRange)]
    [InlineData("A", 0.05, 0.10, 0.09, 0.08, 0, 8, TechniqueFault.FinishRange)]
    [InlineData("A", 0.05, 0.26, 0.05, 0.08, 0, 8, TechniqueFault.TooHeavy)]
    [InlineData("A", 0.05, 0.10, 0.05, 0.08, 9, 8, TechniqueFault.Count)]
    [InlineData("A", 0.05, 0.10, 0.05, 0.08, 0, 101, TechniqueFault.Count)]
    [InlineData("A", 0.05, 0.10, 0, 0, 0, 0, TechniqueFault.Nothing)]
    public void A_technique_of_the_shop_is_checked_before_it_is_kept(
        string name,
        decimal roughMin,
        decimal roughMax,
        decimal finishMin,
        decimal finishMax,
        int minRough,
        int maxRough,
        TechniqueFault? fault
    )
    {
        var technique = new Technique(name, Mm.Of(roughMin), Mm.Of(roughMax), Mm.Of(finishMin), Mm.Of(finishMax), minRough, maxRough);
        TechniqueCheck.Faults(technique, ["Working cut"], ShopRules.Default).ShouldBe(fault is { } f ? [f] : []);
        // What is kept can be planned by.
        if (fault is null)
            PassPlanner
                .Plan(Rotor with { Techniques = [technique], Dial = Dial with { Division = Mm.Of(0.005m) }, TwinCutter = true })
                .Options.ShouldHaveSingleItem()
                .Key.ShouldBe(name);
    }

    [Fact]
    public void A_dial_is_held_against_its_setting()
    {
        DialPosition.Of(Mm.Of(0.12m), Mm.Of(0.15m), Mm.Of(0.01m)).ShouldBe(new DialPosition("toGo", Mm.Of(0.03m)));
        DialPosition.Of(Mm.Of(0.17m), Mm.Of(0.15m), Mm.Of(0.01m)).ShouldBe(new DialPosition("past", Mm.Of(0.02m)));
        DialPosition.Of(Mm.Of(0.154m), Mm.Of(0.15m), Mm.Of(0.01m)).ToGo.ShouldBe(Length.Zero);
        DialPosition.Of(Mm.Of(0.1m), null, Mm.Of(0.01m)).ToGo.ShouldBeNull();
        DialPosition.Degrees(Mm.Of(0.55m), Mm.Of(0.01m), 50).ShouldBe(36, 1e-9);
        DialPosition.Degrees(Mm.Of(-0.05m), Mm.Of(0.01m), 50).ShouldBe(324, 1e-9);
    }

    [Fact]
    public void Ways_stand_beside_no_machining_and_a_new_part_in_metal_life_and_money()
    {
        var limits = Limits.Create(PartKind.Rotor, Mm.Of(26), Mm.Of(23.9m), Mm.Of(23.6m), ShopRules.Default).Limits!;
        var lathe = new Lathe
        {
            Name = "Bench",
            Division = Mm.Of(0.01m),
            DialAllowance = Mm.Of(0.01m),
            NoseRadius = Mm.Of(0.8m),
            Speeds = [60m, 85m, 110m],
            Feeds = [new("1", Mm.Of(0.06m)), new("3", Mm.Of(0.25m))],
            RoughFeed = "3",
            FinishFeed = "1",
        };
        var part = new ComparedPart
        {
            Limits = limits,
            Worst = Mm.Of(24.30m),
            Diameter = Mm.Of(280),
            Band = Mm.Of(48),
            Kilometres = 85_000,
            NewPartPrice = 62,
        };
        var plan = PassPlanner.Plan(Rotor with { Techniques = Technique.BuiltIn.Take(3).ToList() });
        var ways = PlanComparison.Of(plan, Rotor, lathe, part, ShopRules.Default);
        ways.Select(w => w.Key).ShouldBe(["working", "light", "single", "scuff", "none", "new"]);
        // 1.70 mm in 85 000 km: 0.02 a thousand; 0.57 left after 24.17, 0.70 as it is, 2.40 of a new one.
        (ways[0].LeftToDiscard, ways[0].Kilometres).ShouldBe((Mm.Of(0.57m), 28_500m));
        (ways[4].LeftToDiscard, ways[4].Kilometres, ways[4].Cost).ShouldBe((Mm.Of(0.70m), 35_000m, 0m));
        (ways[5].LeftToDiscard, ways[5].Kilometres, ways[5].Cost).ShouldBe((Mm.Of(2.40m), 120_000m, 62m));
        // 20 minutes to mount, 48/0.06/85 + 0.5 to finish.
        (ways[0].Minutes, ways[0].Cost).ShouldBe((30m, 33m));
        ways[0].Roughness!.Value.ShouldBe(1000 * 0.06 * 0.06 / (32 * 0.8), 1e-9);
        ways[0].Risks.ShouldBeEmpty();
        ways[1].Risks.ShouldBe([PlanRisk.Rubs]);
        ways[4].Risks.ShouldBe([PlanRisk.Pulses]);
        // What nobody knows is left open.
        var bare = PlanComparison.Of(
            plan,
            Rotor,
            lathe,
            part with
            {
                Kilometres = null,
                NewPartPrice = null,
                Band = Length.Zero,
                WithinItsPapers = true,
            },
            ShopRules.Default
        );
        bare.ShouldAllBe(w => w.Kilometres == null);
        (bare[0].Minutes, bare[0].Cost, bare[^1].Cost, bare[^2].Risks.Count).ShouldBe((null, null, null, 0));
    }

    [Theory]
    [InlineData("NOW outer=0.14 inner=0.10 unit=mm spindle=on rpm=150 feed=on")]
    [InlineData("NOW outer=0.14 inner=0.10 unit=mm spindle=on rpm=150 feed=on way=out")]
    [InlineData("NOW bar=0.0055 unit=in spindle=off feed=off way=in")]
    [InlineData("NOW bar=0.0055 unit=in spindle=off feed=off")]
    [InlineData("NOW outer=-0.02 inner=0.00 unit=mm spindle=on feed=off")]
    [InlineData("HELLO v=1")]
    public void A_read_out_s_line_reads_back(string line) => LatheLine.Read(line)!.Write().ShouldBe(line);

    [Theory]
    [InlineData("NOW outer=1e3 unit=mm spindle=on feed=on")]
    [InlineData("NOW outer=0.1 unit=cm spindle=on feed=on")]
    [InlineData("NOW outer=0.1 outer=0.2 unit=mm spindle=on feed=on")]
    [InlineData("NOW unit=mm spindle=on feed=on")]
    [InlineData("NOW outer=0.1 unit=mm spindle=maybe feed=on")]
    [InlineData("NOW outer=0.1 unit=mm spindle=on rpm=-5 feed=on")]
    [InlineData("NOW outer=0.1 unit=mm spindle=on feed=on way=back")]
    [InlineData("SEND n=1 value=0.1 unit=mm stable=yes")]
    [InlineData("")]
    public void Other_lines_are_none_of_ours(string line) => LatheLine.Read(line).ShouldBeNull();

    [Theory]
    // Before the start the dials are being set and the spindle may turn; a feed that is in is another matter.
    [InlineData("outer=0.02 inner=0.02 spindle=off feed=off way=out", CutStage.Ready, null)]
    [InlineData("outer=0.30 inner=0.30 spindle=on feed=off way=out", CutStage.Ready, null)]
    [InlineData("outer=0.10 inner=0.10 spindle=on feed=on way=out", CutStage.Ready, ReadOutFault.FeedsUnstarted)]
    [InlineData("outer=0.10 inner=0.12 spindle=on feed=on way=out", CutStage.Ready, ReadOutFault.TooDeep)]
    [InlineData("outer=0.02 inner=0.02 spindle=on feed=on", CutStage.Ready, ReadOutFault.FeedsUnstarted)]
    // While it is cut: within half a division is where it shall stand.
    [InlineData("outer=0.105 inner=0.095 spindle=on feed=on way=out", CutStage.Cutting, null)]
    [InlineData("outer=0.105 inner=0.095 spindle=on feed=on", CutStage.Cutting, null)]
    [InlineData("outer=0.106 inner=0.10 spindle=on feed=on way=out", CutStage.Cutting, ReadOutFault.TooDeep)]
    [InlineData("outer=0.10 inner=0.094 spindle=on feed=on way=out", CutStage.Cutting, ReadOutFault.TooShallow)]
    [InlineData("outer=0.10 inner=0.10 spindle=off feed=off way=out", CutStage.Cutting, ReadOutFault.SpindleStands)]
    [InlineData("outer=0.10 inner=0.10 spindle=on feed=off way=out", CutStage.Cutting, ReadOutFault.FeedOut)]
    // The wrong way is said before all, deeper before the rest, at any stage.
    [InlineData("outer=0.30 inner=0.10 spindle=on feed=on way=in", CutStage.Cutting, ReadOutFault.FeedsInwards)]
    [InlineData("outer=0.10 inner=0.10 spindle=on feed=on way=in", CutStage.Ready, ReadOutFault.FeedsInwards)]
    [InlineData("outer=0.10 inner=0.10 spindle=on feed=off way=in", CutStage.Cutting, ReadOutFault.FeedOut)]
    [InlineData("outer=0.12 inner=0.10 spindle=off feed=off way=out", CutStage.Cutting, ReadOutFault.TooDeep)]
    [InlineData("outer=0.02 inner=0.10 spindle=off feed=off way=out", CutStage.Cutting, ReadOutFault.SpindleStands)]
    // Stopped: the bit is drawn back, and the feed has to be out.
    [InlineData("outer=0.40 inner=-0.10 spindle=on feed=off way=out", CutStage.Stopped, null)]
    [InlineData("outer=0.10 inner=0.10 spindle=on feed=on way=out", CutStage.Stopped, ReadOutFault.FeedsUnstarted)]
    public void What_the_lathe_does_otherwise_than_the_record_is_named(string says, CutStage stage, ReadOutFault? fault) =>
        (ReadOutCheck.Of(LatheLine.Read("NOW unit=mm " + says)!, stage, [Mm.Of(0.10m), Mm.Of(0.10m)], Mm.Of(0.01m))?.Fault).ShouldBe(fault);

    [Fact]
    public void The_dial_that_is_off_the_most_is_named_with_how_far()
    {
        ReadOutCheck? Of(string says) =>
            ReadOutCheck.Of(
                LatheLine.Read("NOW unit=mm spindle=on feed=on " + says)!,
                CutStage.Cutting,
                [Mm.Of(0.10m), Mm.Of(0.12m)],
                Mm.Of(0.01m)
            );
        Of("outer=0.13 inner=0.16").ShouldBe(new(ReadOutFault.TooDeep, 1, Mm.Of(0.04m)));
        Of("outer=0.02 inner=0.14").ShouldBe(new(ReadOutFault.TooDeep, 1, Mm.Of(0.02m)));
        Of("outer=0.07 inner=0.10").ShouldBe(new(ReadOutFault.TooShallow, 0, Mm.Of(0.03m)));
        Of("bar=0.10").ShouldBeNull();
    }

    [Fact]
    public void No_text_breaks_the_read_out() =>
        Gen.OneOf(Gen.String, Gen.String[Gen.Char[" NOWouterinbafdsp=0.1-"], 0, 60].Select(s => "NOW " + s))
            .Sample(s => _ = LatheLine.Read(s)?.Write());

    [Fact]
    public void The_surface_is_drawn_from_its_readings_and_cleaned_by_the_pass_that_reaches_it()
    {
        Reading[] readings =
        [
            .. new[] { 24.31m, 24.33m, 24.36m, 24.38m, 24.37m, 24.35m, 24.32m, 24.30m }.Select(
                (t, i) => new Reading(ClockAngle.FromDegrees(45 * i), null, Mm.Of(t))
            ),
        ];
        var side = new SideNeed(Mm.Of(0.14m), Mm.Of(0.05m), Mm.Of(0.09m));
        var profile = SurfaceProfile.Of(PartKind.Rotor, side, readings);
        var lands = profile.Lands(0);
        (profile.ShapeIsRead, lands.Count).ShouldBe((true, 96));
        (lands[36], lands[84]).ShouldBe((0, 0.09)); // thickest at 135°, thinnest at 315°
        lands[0].ShouldBe(0.09 * 7 / 8, 1e-9);
        profile.GrooveFloor.Max().ShouldBe(0.14, 1e-9);
        var cleaned = SurfaceProfile.CleanedBy(lands, [Mm.Of(0.05m), Mm.Of(0.10m)]);
        (cleaned[36], cleaned[84], cleaned.Count(c => c < 0)).ShouldBe((0, 1, 0));
        SurfaceProfile.CleanedBy(profile.GrooveFloor, [Mm.Of(0.05m), Mm.Of(0.10m)])[84].ShouldBe(-1);
        // With nothing read of the shape: one high and one low side, as the clean share is computed.
        var unread = SurfaceProfile.Of(PartKind.Rotor, side, []);
        unread.ShapeIsRead.ShouldBeFalse();
        var share = SurfaceProfile.CleanedBy(unread.Lands(0), [Mm.Of(0.045m)]).Count(c => c == 0) / 96.0;
        share.ShouldBe(Coverage.CleanShare(Mm.Of(0.045m), Mm.Of(0.09m)), 0.02);
        // An oval lies twice round; a bore is low where it is wide.
        Reading[] axes =
        [
            .. new[] { 228.62m, 228.74m, 228.62m, 228.50m }.Select((d, i) => new Reading(ClockAngle.FromDegrees(45 * i), null, Mm.Of(d))),
        ];
        var oval = SurfaceProfile.Of(PartKind.Drum, new(Mm.Of(0.12m), Runout: Mm.Of(0.12m)), axes).Lands(0);
        (oval[12], oval[60], oval[36], oval[84]).ShouldBe((0.12, 0.12, 0, 0));
    }
}
