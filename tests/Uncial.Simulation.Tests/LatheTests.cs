using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Simulation.Tests;

/// <summary>The virtual lathe goes wrong as a lathe does, and right when it is worked by the book.</summary>
public class LatheTests
{
    private static readonly Mounted ByTheBook = new(true, true, Seating.Flat, Centring.HalfWay, true, 130, 8);

    private static double Median(Func<int, double> of)
    {
        List<double> all = [.. Enumerable.Range(1, 401).Select(of)];
        all.Sort();
        return all[200];
    }

    private static double Wobble(Mounted mounted) => Median(seed => 2 * SeatedPart.Wobble(mounted, 300, new(seed)).Amplitude);

    [Fact]
    public void Mounted_by_the_book_a_part_runs_true_and_every_slip_shows()
    {
        var best = Wobble(ByTheBook);
        best.ShouldBeLessThan(0.01);
        // What a shop accepts is 0.025; each slip alone is well beyond it.
        foreach (
            var slip in new[]
            {
                ByTheBook with
                {
                    PartIsClean = false,
                },
                ByTheBook with
                {
                    AdaptersAreClean = false,
                },
                ByTheBook with
                {
                    Seating = Seating.BeyondTheFace,
                },
                ByTheBook with
                {
                    Seating = Seating.OnTheCone,
                },
                ByTheBook with
                {
                    Centring = Centring.Not,
                },
                ByTheBook with
                {
                    NotchesMeet = false,
                },
            }
        )
            Wobble(slip).ShouldBeGreaterThan(0.04, slip.ToString());
        // The wider the seat, the less a grain tilts; the thicker the web, the less it bends.
        var dirty = ByTheBook with { PartIsClean = false };
        Wobble(dirty with { SeatMm = 170 }).ShouldBeLessThan(Wobble(dirty with { SeatMm = 90 }) * 0.7);
        var twisted = ByTheBook with { NotchesMeet = false };
        Wobble(twisted with { WebMm = 14 }).ShouldBeLessThan(Wobble(twisted with { WebMm = 4 }) * 0.5);
    }

    private static PassAtTheLathe Pass(Chance chance)
    {
        var kind = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        return new(
            kind,
            chance.Between(0.06, 0.25),
            chance.OneOf<double>([0.06, 0.12, 0.25]),
            chance.OneOf<double>([60, 85]),
            kind == PartKind.Rotor ? chance.Between(220, 320) : chance.Between(160, 300),
            kind == PartKind.Rotor ? chance.Between(9, 30) : 8,
            chance.Between(40, 80),
            true,
            chance.Between(0, 0.3)
        );
    }

    [Fact]
    public void A_pass_by_the_book_never_chatters()
    {
        var chance = new Chance(1);
        for (var n = 0; n < 5000; n++)
        {
            var pass = Pass(chance);
            Chattering.Of(pass).Heard.ShouldBe(HeardAs.Clean, pass.ToString());
        }
    }

    /// <summary>Where the virtual lathe chatters, Core finds a reason, and what it advises makes it less or ends it.</summary>
    [Fact]
    public void What_helps_by_the_rules_helps_at_the_virtual_lathe()
    {
        var chance = new Chance(2);
        HashSet<HeardAs> heard = [];
        var (advised, helped, ended) = (0, 0, 0);
        for (var n = 0; n < 20_000; n++)
        {
            var pass = Pass(chance) with
            {
                IsDamped = chance.Happens(0.5),
                ReachMm = chance.Between(40, 140),
                EdgeWorn = chance.Happens(0.3) ? chance.Between(0.6, 1) : 0.1,
                DepthMm = chance.OneOf<double>([0.02, 0.1, 0.2, 0.25]),
            };
            var chatter = Chattering.Of(pass);
            if (chatter.Heard == HeardAs.Clean)
                continue;
            heard.Add(chatter.Heard);
            chatter.AmplitudeMm.ShouldBeInRange(0.002, 0.05);
            chatter.WavesPerTurn.ShouldBeGreaterThan(2);
            var advice = Chatter.Of(
                new()
                {
                    Kind = pass.Kind,
                    Pass = PassKind.Rough,
                    Depth = Length.FromMillimetres((decimal)pass.DepthMm),
                    Diameter = Length.FromMillimetres((decimal)pass.DiameterMm),
                    Thickness = pass.Kind == PartKind.Rotor ? Length.FromMillimetres((decimal)pass.ThicknessMm) : null,
                    Overhangs = pass.ReachMm > 90,
                    HasBand = pass.IsDamped,
                    EdgeIsWorn = pass.EdgeWorn > 0.5,
                    Sign = chatter.Heard switch
                    {
                        HeardAs.Ringing => ChatterSign.Ringing,
                        HeardAs.Rumble => ChatterSign.Rumble,
                        HeardAs.Rubbing => ChatterSign.Rubbing,
                        _ => ChatterSign.Torn,
                    },
                },
                ShopRules.Default
            );
            // Each remedy in turn, on top of those before it.
            var now = pass;
            advised++;
            foreach (var remedy in advice.Remedies)
                now = remedy switch
                {
                    ChatterRemedy.Band or ChatterRemedy.MoreDamping => now with { IsDamped = true },
                    ChatterRemedy.ShortenOverhang => now with { ReachMm = Math.Min(now.ReachMm, 75) },
                    ChatterRemedy.FreshEdge => now with { EdgeWorn = 0 },
                    ChatterRemedy.DeeperOrFaster => now with { DepthMm = Math.Max(now.DepthMm, 0.1) },
                    _ => now with { TurnsPerMinute = now.TurnsPerMinute * 0.8, DepthMm = Math.Min(now.DepthMm, 0.15) },
                };
            var after = Chattering.Of(now);
            if (after.AmplitudeMm < chatter.AmplitudeMm)
                helped++;
            if (after.Heard == HeardAs.Clean)
                ended++;
        }
        heard.Count.ShouldBe(4);
        helped.ShouldBeGreaterThan(advised * 95 / 100);
        ended.ShouldBeGreaterThan(advised * 90 / 100);
    }

    [Fact]
    public void A_screw_with_play_stands_deeper_than_its_dial_says_when_it_was_set_from_the_wrong_side()
    {
        var dial = new DialWithPlay(0.05);
        dial.TurnTo(0.20);
        dial.Slide.ShouldBe(0.20, 1e-9);
        // Too far by 0.04, turned back to where it should be: the slide has not moved.
        dial.TurnTo(0.24);
        dial.TurnTo(0.20);
        dial.Slide.ShouldBe(0.24, 1e-9);
        dial.TurnToFromBehind(0.20);
        dial.Slide.ShouldBe(0.20, 1e-9);
        dial.TurnTo(0.10);
        dial.Slide.ShouldBe(0.15, 1e-9);
    }
}
