using System.Numerics;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Practice.Drills;
using Uncial.Simulation.Scales;

namespace Uncial.Simulation.Tests;

/// <summary>Every drill's answer is what somebody finds who works it out another way.</summary>
public class DrillTests
{
    private const int Seeds = 150;

    private static IEnumerable<DrillItem> Items(DrillKind kind)
    {
        for (var seed = 1; seed <= Seeds; seed++)
        for (var number = 1; number <= DrillKinds.Items; number++)
            yield return DrillItems.Draw(kind, seed, number);
    }

    private static Choice Right(ChoiceItem item) => item.Choices[item.Right];

    [Theory]
    [InlineData(DrillKind.Micrometer)]
    [InlineData(DrillKind.InchMicrometer)]
    [InlineData(DrillKind.Caliper)]
    [InlineData(DrillKind.Indicator)]
    [InlineData(DrillKind.DepthGauge)]
    [InlineData(DrillKind.Eighths)]
    public void What_an_eye_reads_off_the_scales_is_right(DrillKind kind)
    {
        foreach (var item in Items(kind).Cast<SizeItem>())
        {
            var picture = ((DrillPicture.Gauge)item.Picture!).Shown;
            var read = Length.From((decimal)Math.Round(Eye.Read(picture), 5), item.Unit);
            item.Mark(read).ShouldBe(new(true, MistakeCause.None, Length.Zero), $"{picture.Design} {item.Right}");
            item.Mark(read + Length.From((decimal)picture.Design.Division, item.Unit)).IsRight.ShouldBeFalse();
        }
    }

    [Fact]
    public void The_same_seed_gives_the_same_item_and_another_gives_another()
    {
        foreach (var kind in Enum.GetValues<DrillKind>())
        {
            var once = Enumerable.Range(1, 20).Select(n => Text(DrillItems.Draw(kind, 7, n))).ToList();
            once.ShouldBe(Enumerable.Range(1, 20).Select(n => Text(DrillItems.Draw(kind, 7, n))));
            once.Distinct().Count().ShouldBeGreaterThan(kind is DrillKind.Locks or DrillKind.Adapters ? 5 : 15, kind.ToString());
            Enumerable.Range(1, 20).Select(n => Text(DrillItems.Draw(kind, 8, n))).ShouldNotBe(once);
        }

        static string Text(DrillItem item) =>
            item is SizeItem size ? size.ToString() + size.Right
            : item is ChoiceItem choice ? choice.Ask + string.Join(';', choice.Choices) + choice.Picture
            : "";
    }

    [Fact]
    public void Sizes_are_worked_out_as_with_pencil_and_paper()
    {
        foreach (var item in Items(DrillKind.Units))
            switch (item)
            {
                case FigureItem { Ask: Ask.DiameterAfter a } figure:
                    figure.Right.Millimetres.ShouldBe(a.Diameter.Millimetres + a.Depth.Millimetres + a.Depth.Millimetres);
                    figure.Mark(a.Diameter + a.Depth).Cause.ShouldBe(MistakeCause.RadiusForDiameter);
                    break;
                case FigureItem { Ask: Ask.ThicknessAfter a } figure:
                    figure.Right.Millimetres.ShouldBe(a.Thickness.Millimetres - a.EachSide.Millimetres - a.EachSide.Millimetres);
                    figure.Mark(a.Thickness - a.EachSide).Cause.ShouldBe(MistakeCause.OneSideOnly);
                    break;
                case FigureItem { Ask: Ask.DialForDepth a } figure:
                    figure.Right.Millimetres.ShouldBe(a.Depth.Millimetres * 2);
                    break;
                case FigureItem { Ask: Ask.LimitInOtherUnit a } figure:
                    // Twenty-five point four millimetres are an inch; a least thickness goes up, a greatest diameter down.
                    var exact = a.To == LengthUnit.Inch ? a.Limit.Millimetres / 25.4m : a.Limit.Millimetres;
                    var step = a.To == LengthUnit.Inch ? 0.001m : 0.01m;
                    var safe = a.Part == PartKind.Rotor ? Math.Ceiling(exact / step) * step : Math.Floor(exact / step) * step;
                    figure.Right.In(a.To).ShouldBe(safe, 0.000_000_1m);
                    figure.Mark(Length.From(safe, a.To)).IsRight.ShouldBeTrue();
                    var unsafeSide = a.Part == PartKind.Rotor ? Math.Floor(exact / step) * step : Math.Ceiling(exact / step) * step;
                    if (Math.Abs(unsafeSide - safe) > step / 2)
                        figure.Mark(Length.From(unsafeSide, a.To)).Cause.ShouldBe(MistakeCause.UnsafeRounding);
                    break;
                case ChoiceItem { Ask: Ask.WithinOrBeyond a } choice:
                    var larger = a.Reading.Millimetres > a.Limit.Millimetres;
                    Right(choice).GetType().ShouldBe(larger == (a.Part == PartKind.Rotor) ? typeof(Choice.Within) : typeof(Choice.Beyond));
                    break;
                case ChoiceItem { Ask: Ask.WhichIsWorse a } choice:
                    var sizes = choice.Choices.Cast<Choice.Size>().Select(c => c.Value.Millimetres).ToList();
                    ((Choice.Size)Right(choice)).Value.Millimetres.ShouldBe(a.Part == PartKind.Rotor ? sizes.Min() : sizes.Max());
                    break;
                default:
                    throw new InvalidOperationException(item.ToString());
            }
    }

    [Fact]
    public void The_start_is_the_highest_below_the_limit_from_which_the_dial_reaches_it()
    {
        foreach (var item in Items(DrillKind.Starts))
        {
            if (item is not ChoiceItem choice)
            {
                var reading = (ReadingItem)item;
                reading
                    .Mark(Length.From((decimal)Math.Round(Eye.Read(((DrillPicture.Gauge)item.Picture!).Shown), 5), reading.Unit))
                    .IsRight.ShouldBeTrue();
                reading.Mark(reading.Right - Length.From((decimal)reading.Start, reading.Unit)).Cause.ShouldBe(MistakeCause.StartForgotten);
                continue;
            }
            var ask = (Ask.StartForLimit)choice.Ask;
            var right = ((Choice.Size)Right(choice)).Value;
            right.ShouldBeLessThan(ask.Discard);
            (right + ask.Reach).ShouldBeGreaterThanOrEqualTo(ask.Discard);
            choice
                .Choices.Cast<Choice.Size>()
                .Select(c => c.Value)
                .Where(v => v < ask.Discard && v + ask.Reach >= ask.Discard)
                .Max()
                .ShouldBe(right);
        }
    }

    [Fact]
    public void A_marking_says_what_is_cast()
    {
        foreach (var item in Items(DrillKind.Markings).Cast<ChoiceItem>())
        {
            var lines = ((DrillPicture.Casting)item.Picture!).Lines;
            var right = (Choice.Limit)Right(item);
            var part = ((Ask.Marking)item.Ask).Part;
            // The foundry's number stands on a line of its own and is no limit.
            var text = string.Join(' ', lines.Where(l => !l.All(char.IsAsciiDigit)));
            var (marking, fault) = CastMarking.Read(text, part);
            fault.ShouldBeNull(text);
            marking!.Limits.Single(l => l.Kind == right.Kind).Value.ShouldBe(right.Value, text);
            item.Choices.Cast<Choice.Limit>().Select(c => (c.Kind, c.Value)).Distinct().Count().ShouldBe(4);
        }
    }

    [Fact]
    public void Two_scratches_split_as_two_vectors_do()
    {
        foreach (var item in Items(DrillKind.Scratches).Cast<ChoiceItem>())
        {
            var (ask, picture) = ((Ask.Scratches)item.Ask, (DrillPicture.Scratches)item.Picture!);
            static Complex V(Length runout, decimal at) =>
                Complex.FromPolarCoordinates((double)runout.Millimetres, (double)at * Math.PI / 180);
            var (v1, v2) = (V(ask.First, picture.First), V(ask.Second, picture.Second));
            // On the part: v1 = P + S, v2 = P + S turned back by the turn.
            var back = Complex.FromPolarCoordinates(1, -ask.Turned * Math.PI / 180);
            var setUp = (v1 - v2) / (1 - back);
            var part = v1 - setUp;
            switch (Right(item))
            {
                case Choice.ThePart:
                    (setUp.Magnitude / part.Magnitude).ShouldBeLessThan(0.25);
                    break;
                case Choice.TheSetUp all:
                    (part.Magnitude / setUp.Magnitude).ShouldBeLessThan(0.3);
                    ((double)all.Runout.Millimetres).ShouldBe(setUp.Magnitude, 0.015);
                    break;
                case Choice.Both both:
                    (part.Magnitude / setUp.Magnitude).ShouldBeInRange(0.5, 2);
                    ((double)both.SetUp.Millimetres).ShouldBe(setUp.Magnitude, 0.006);
                    break;
            }
            picture.FirstArc.ShouldBeInRange(30, 300);
            picture.SecondArc.ShouldBeInRange(30, 300);
        }
    }

    [Fact]
    public void Adapters_fit_as_the_trade_says()
    {
        foreach (var item in Items(DrillKind.Adapters).Cast<ChoiceItem>())
            switch (item.Ask)
            {
                case Ask.ConeForHole ask:
                    var cone = ((Choice.Adapter)Right(item)).What;
                    // About half-way in, standing proud.
                    (
                        (double)(ask.Hole.Millimetres - cone.Least.Millimetres)
                        / (double)(cone.Greatest.Millimetres - cone.Least.Millimetres)
                    ).ShouldBeInRange(0.3, 0.7);
                    break;
                case Ask.CupsForPart ask:
                    bool Fits(Core.Mounting.Adapter c) =>
                        c.Outside <= ask.Register
                        && c.Recess > ask.Cone
                        && (ask.Size is null || c.Outside + ask.CutterRoom!.Value * 2 <= ask.Size.Value);
                    var right = ((Choice.Adapter)Right(item)).What;
                    Fits(right).ShouldBeTrue();
                    item.Choices.Cast<Choice.Adapter>().Where(c => Fits(c.What)).Max(c => c.What.Outside).ShouldBe(right.Outside);
                    item.Choices.Cast<Choice.Adapter>()
                        .Where(c => c.Cause == MistakeCause.DoesNotSeat)
                        .Any(c => Fits(c.What))
                        .ShouldBeFalse();
                    break;
                case Ask.HowHeld ask:
                    ((Choice.Held)Right(item)).Way.ShouldBe(
                        ask.Hubbed ? Core.Mounting.MountWay.RaceCones : Core.Mounting.MountWay.ConeAndCups
                    );
                    break;
            }
    }

    [Fact]
    public void The_lathe_stands_as_the_trade_says_but_for_what_is_wrong()
    {
        // Rotor: knobs, cross-slide and spindle feed locked, cross-feed free. Drum: cross-feed locked, spindle feed free.
        Dictionary<string, (bool Rotor, bool Drum)> trade = new()
        {
            ["Cutter knobs"] = (true, true),
            ["Cross-slide"] = (true, true),
            ["Spindle feed"] = (true, false),
            ["Cross-feed"] = (false, true),
        };
        HashSet<Type> seen = [];
        foreach (var item in Items(DrillKind.Locks).Cast<ChoiceItem>())
        {
            var picture = (DrillPicture.Lathe)item.Picture!;
            var rotor = picture.Part == PartKind.Rotor;
            var wrong = picture
                .Machine.Locks.Where((l, i) => picture.Tight[i] != (rotor ? trade[l.Name].Rotor : trade[l.Name].Drum))
                .Select(l => l.Name)
                .ToList();
            if (picture.Lever != (rotor ? "outwards" : "out of the drum"))
                wrong.Add("lever");
            if (!picture.HasBand)
                wrong.Add("band");
            var right = Right(item);
            (
                right switch
                {
                    Choice.Lock l => [l.Name],
                    Choice.Lever => ["lever"],
                    Choice.Band => ["band"],
                    _ => Array.Empty<string>(),
                }
            ).ShouldBe(wrong);
            seen.Add(right.GetType());
        }
        seen.Count.ShouldBe(4);
    }
}
