using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

public class MountingTests
{
    private static readonly Lathe Bench = new()
    {
        Name = "Bench",
        Division = Mm.Of(0.01m),
        DialAllowance = Mm.Of(0.01m),
        Feeds = [new("1", Mm.Of(0.1m)), new("T", Length.Zero, Mm.Of(12))],
        RoughFeed = "1",
        FinishFeed = "T",
        Speeds = [60m, 200m],
        Stepless = true,
        NoseRadius = Mm.Of(0.8m),
        Arbor = new(Mm.Of(25), Mm.Of(230), Mm.Of(70), Mm.Of(22)),
        Rotors = new(Mm.Of(180), Mm.Of(400)),
        Drums = new(Mm.Of(160), Mm.Of(400)),
    };

    private static readonly Adapter[] Board =
    [
        Cone("Cone 2", 50, 70),
        Cone("Cone 3", 64, 90),
        Cup("Cup 110", 110, 92),
        Cup("Cup 130", 130, 95),
        Cup("Cup 160", 160, 120),
        new()
        {
            Name = "Odd cup",
            Kind = AdapterKind.Cup,
            Outside = Mm.Of(150),
            Recess = Mm.Of(95),
            Height = Mm.Of(30),
        },
        Spacer("Spacer 10", 10),
        Spacer("Spacer 20", 20),
        Spacer("Spacer 40", 40),
        Spacer("Spacer 60", 60),
        new()
        {
            Name = "Chuck A",
            Kind = AdapterKind.Chuck,
            Least = Mm.Of(55),
            Greatest = Mm.Of(75),
            Height = Mm.Of(40),
        },
        new()
        {
            Name = "Plate 140",
            Kind = AdapterKind.Plate,
            Outside = Mm.Of(140),
            Recess = Mm.Of(80),
            Height = Mm.Of(10),
        },
        new()
        {
            Name = "Race 1",
            Kind = AdapterKind.RaceCone,
            Least = Mm.Of(30),
            Greatest = Mm.Of(50),
            Height = Mm.Of(30),
        },
        new()
        {
            Name = "Race 2",
            Kind = AdapterKind.RaceCone,
            Least = Mm.Of(45),
            Greatest = Mm.Of(70),
            Height = Mm.Of(30),
        },
        new()
        {
            Name = "Jaws",
            Kind = AdapterKind.Jaws,
            Least = Mm.Of(40),
            Greatest = Mm.Of(200),
            Height = Mm.Of(60),
        },
    ];

    private static readonly MountShape Shape = new()
    {
        Hole = Mm.Of(66),
        Register = Mm.Of(142),
        Depth = Mm.Of(48),
        Web = Mm.Of(8),
        Vented = true,
    };

    private static Adapter Cone(string name, decimal least, decimal greatest) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Cone,
            Least = Mm.Of(least),
            Greatest = Mm.Of(greatest),
            Height = Mm.Of(30),
        };

    private static Adapter Cup(string name, decimal outside, decimal recess) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Cup,
            Outside = Mm.Of(outside),
            Recess = Mm.Of(recess),
            Height = Mm.Of(30),
            Count = 2,
        };

    private static Adapter Spacer(string name, decimal height) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Spacer,
            Outside = Mm.Of(45),
            Height = Mm.Of(height),
        };

    private static MountingPlan For(
        MountShape shape,
        PartKind part = PartKind.Rotor,
        decimal diameter = 300,
        Lathe? lathe = null,
        Adapter[]? board = null
    ) => MountingPlan.For(part, Mm.Of(diameter), shape, lathe ?? Bench, board ?? Board);

    [Fact]
    public void A_rotor_goes_on_the_cone_that_enters_half_way_and_the_largest_cups_that_come_in_a_pair_and_seat()
    {
        var plan = For(Shape);
        // The plate of 140 seats as wide as the cups of 130 to a centimetre; cups come first among equals.
        plan.Ways.Select(w => (w.Way, w.Centring, w.Seat.Millimetres))
            .ShouldBe([(MountWay.ChuckAndPlate, "Chuck A", 140m), (MountWay.ConeAndCups, "Cone 2", 130m)]);
        var cups = plan.Ways[1];
        // the odd cup of 150 has no fellow, and 160 is past the face
        cups.Why.ShouldContain(n => n is Note.LargestCup && n.Subject == "Cup 130");
        // Hat 48 deep: cup and spacer keep its rim off the shoulder, and the nut comes onto its thread.
        cups.Stack.Where(p => p.Role == PieceRole.InnerSpacer).Select(p => p.Name).ShouldBe(["Spacer 40"]);
        For(Shape with { Hole = Mm.Of(76) }, board: [.. Board.Where(a => a.Kind != AdapterKind.Plate)])
            .Ways.Single()
            .Centring.ShouldBe("Cone 3");
    }

    [Fact]
    public void Whatever_is_mounted_fits_in_every_dimension_and_what_is_not_says_which_one_fails()
    {
        var (mounted, refused) = (0, 0);
        Gen.Select(Gen.Int[40, 100], Gen.Int[70, 190], Gen.Int[0, 150], Gen.Int[4, 16], Gen.Int[150, 420], Gen.Bool)
            .Sample(
                (hole, register, depth, web, diameter, drum) =>
                {
                    var (shape, part) = (
                        new MountShape
                        {
                            Hole = Mm.Of(hole),
                            Register = Mm.Of(register),
                            Depth = Mm.Of(depth),
                            Web = Mm.Of(web),
                        },
                        drum ? PartKind.Drum : PartKind.Rotor
                    );
                    var plan = For(shape, part, diameter);
                    if (plan.Ways.Count == 0)
                        plan.Misfits.ShouldNotBeEmpty();
                    foreach (var _ in plan.Ways)
                        Interlocked.Increment(ref mounted);
                    foreach (var misfit in plan.Misfits)
                    {
                        Interlocked.Increment(ref refused);
                        (misfit.Length is not null).ShouldBeTrue(misfit.Code);
                    }
                    foreach (var way in plan.Ways.Where(w => w.Way == MountWay.ConeAndCups))
                    {
                        var cup = Board.Single(a => a.Name == way.Stack.Single(p => p.Role == PieceRole.InnerCup).Name);
                        var cone = Board.Single(a => a.Name == way.Centring);
                        way.Stack.Single(p => p.Role == PieceRole.OuterCup).Name.ShouldBe(cup.Name);
                        cone.Enters(Mm.Of(hole)).ShouldBeInRange(0.2, 0.8);
                        (cup.Outside <= Mm.Of(register) && cone.Greatest < cup.Recess && cup.Outside > Mm.Of(hole)).ShouldBeTrue();
                        if (drum)
                            (cup.Outside + 2 * Bench.CutterRoom <= Mm.Of(diameter)).ShouldBeTrue();
                        // The clamped pieces touch one another from the shoulder to the nut, and each spacer is used once.
                        var chain = way.Stack.Where(p => p.Role != PieceRole.Cone).ToList();
                        chain[0].From.ShouldBe(Length.Zero);
                        chain.Zip(chain.Skip(1)).ShouldAllBe(p => p.First.To == p.Second.From);
                        chain.Where(p => p.Role is PieceRole.InnerSpacer or PieceRole.OuterSpacer).Select(p => p.Name).ShouldBeUnique();
                        var nut = way.Stack.Single(p => p.Role == PieceRole.Nut);
                        (nut.From >= Mm.Of(160) && nut.To <= Mm.Of(230)).ShouldBeTrue();
                        (way.Stack.Single(p => p.Role == PieceRole.Part).From > Mm.Of(depth)).ShouldBeTrue();
                    }
                },
                iter: 3000
            );
        mounted.ShouldBeGreaterThan(500);
        refused.ShouldBeGreaterThan(500);
    }

    [Theory]
    [InlineData(45, 142, 300, "noCone")]
    [InlineData(66, 75, 300, "noCup")]
    [InlineData(66, 142, 170, "noCupForCutter")]
    [InlineData(66, 142, 150, "partTooSmall")]
    [InlineData(66, 142, 410, "partTooLarge")]
    public void What_fails_is_named(int hole, int register, int bore, string code) =>
        For(Shape with { Hole = Mm.Of(hole), Register = Mm.Of(register) }, PartKind.Drum, bore)
            .ShouldSatisfyAllConditions(
                p => p.Ways.Where(w => w.Way == MountWay.ConeAndCups).ShouldBeEmpty(),
                p => p.Misfits.ShouldContain(n => n.Code == code)
            );

    [Fact]
    public void A_stack_too_long_or_too_short_for_the_arbor_and_a_size_that_nobody_measured_are_said()
    {
        For(Shape with { Depth = Mm.Of(130), Web = Mm.Of(45) }).Misfits.ShouldContain(n => n is Note.StackTooLong);
        For(Shape, board: [.. Board.Where(a => a.Kind != AdapterKind.Spacer), Spacer("Only", 40)])
            .Misfits.ShouldContain(n => n is Note.StackTooShort);
        For(new() { Hole = Mm.Of(66), Web = Mm.Of(8) }).Missing.ShouldBe(["register", "depth"]);
        For(new() { Hubbed = true }).Missing.ShouldBe(["nearRace", "farRace", "racesApart"]);
    }

    [Fact]
    public void A_hub_goes_on_its_races_an_engine_lathe_takes_jaws_and_a_grinder_takes_flat_rotors_only()
    {
        var hub = new MountShape
        {
            Hubbed = true,
            NearRace = Mm.Of(58),
            FarRace = Mm.Of(40),
            RacesApart = Mm.Of(70),
        };
        var way = For(hub, PartKind.Drum, 230, board: [.. Board, Spacer("Spacer 15", 15)]).Ways.Single();
        (way.Way, way.Centring).ShouldBe((MountWay.RaceCones, "Race 2"));
        MountSteps
            .For(way, PartKind.Drum, Mm.Of(230), hub, Bench)
            .ShouldSatisfyAllConditions(
                s => s[0].ShouldSatisfyAllConditions(f => f.Code.ShouldBe("races"), f => f.Caution.ShouldBe("races")),
                s => s.ShouldContain(x => x.Code == "nutAnticlockwise"),
                s => s.ShouldContain(x => x.Code == "dampCord")
            );
        For(Shape, lathe: Bench with { Kind = LatheKind.Engine, Arbor = null }).Ways.Single().Way.ShouldBe(MountWay.Jaws);
        var grinder = Bench with { Kind = LatheKind.Grinder, Arbor = null, CutsDrums = false };
        For(Shape, lathe: grinder).Ways.Single().Way.ShouldBe(MountWay.Table);
        For(hub, lathe: grinder).Misfits.Single().Code.ShouldBe("hubNotFlat");
        For(Shape, PartKind.Drum, lathe: grinder).Misfits.Single().Code.ShouldBe("takesNoDrums");
        grinder.Techniques(Technique.BuiltIn).Select(t => t.Key).ShouldBe(["grind"]);
        Bench.Techniques(Technique.BuiltIn).Select(t => t.Key).ShouldNotContain("grind");
    }

    [Fact]
    public void Steps_speak_of_this_lathe()
    {
        var way = For(Shape).Ways.Single(w => w.Way == MountWay.ConeAndCups);
        MountSteps
            .For(way, PartKind.Rotor, Mm.Of(300), Shape, Bench with { NutTightensClockwise = true })
            .Select(s => s.Code)
            .ShouldBe([
                "clean",
                "innerSpacers",
                "innerCup",
                "cone",
                "partOn",
                "outerCup",
                "outerSpacers",
                "nutClockwise",
                "dampVents",
                "head",
                "insert",
            ]);
        MountSteps
            .ToFirstTouch(PartKind.Rotor, Bench)
            .Select(s => s.Code)
            .ShouldBe(["guards", "centreTwin", "touchBoth", "zeroDepth", "ridgesRotor", "runInRotor"]);
        MountSteps.ToFirstTouch(PartKind.Drum, Bench with { CountsDiameter = true }).ShouldContain(s => s.Code == "zeroDiameter");
        MountSteps.Overhangs(PartKind.Drum, Shape with { Depth = Mm.Of(91) }, Bench).ShouldBeTrue();
    }

    [Fact]
    public void A_feed_by_time_is_shared_among_the_turns_and_a_stepless_spindle_runs_as_fast_as_the_tool_bears()
    {
        var run = Bench.Run(PassKind.Finish, PartKind.Rotor, Mm.Of(300), Mm.Of(48));
        run.TurnsPerMinute.ShouldBe(95); // 90 m/min at 300 across
        run.PerTurn.Millimetres.ShouldBe(12m / 95);
        run.Minutes.ShouldBe(4.5m, 0.001m);
    }

    [Theory]
    [InlineData("2½", 75)]
    [InlineData("2.5", 75)]
    [InlineData("2,5", 75)]
    [InlineData("2:30", 75)]
    [InlineData("75°", 75)]
    [InlineData("75 deg", 75)]
    [InlineData("12", 0)]
    [InlineData("½", 15)]
    [InlineData("12½", 15)]
    [InlineData("13", null)]
    [InlineData("2:75", null)]
    [InlineData("1.2½", null)]
    [InlineData("-1", null)]
    [InlineData("", null)]
    public void Places_are_read_as_they_are_said(string text, int? degrees) => ClockText.Place(text)?.Degrees.ShouldBe(degrees!.Value);

    [Fact]
    public void Arcs_and_turns_are_read_as_they_are_said()
    {
        new[] { "2.7", "all", "12", "90°", "0", "x" }.Select(ClockText.Arc).ShouldBe([81, 360, 360, 90, null, null]);
        new[] { "half", "180", "6", "90°", "500" }.Select(ClockText.Turn).ShouldBe([180, 180, 180, 90, null]);
    }

    [Fact]
    public void Five_of_six_above_tolerance_is_no_chance_and_what_was_found_most_is_looked_for_first()
    {
        Length[] wobbles = [.. new[] { 0.01m, 0.03m, 0.04m, 0.02m, 0.03m, 0.035m, 0.03m }.Select(Mm.Of)];
        SetUpHealth.Of(wobbles, Mm.Of(0.025m)).ShouldBe(new(6, 5, true));
        SetUpHealth.Of([.. wobbles.Take(4)], Mm.Of(0.025m)).ShouldBe(new(4, 2, false));
        RemountAdvice
            .For(false, [RemountCause.Nut, RemountCause.Nut, RemountCause.Dirt])
            .Select(c => c.Cause)
            .Take(3)
            .ShouldBe([RemountCause.Nut, RemountCause.Dirt, RemountCause.Nick]);
        RemountAdvice.For(true, [])[0].Cause.ShouldBe(RemountCause.Races);
    }
}
