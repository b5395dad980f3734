using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>Adapters for a part's sizes: the cone that enters half-way, the largest cups that seat, chuck or race cones.</summary>
internal static class AdapterDrill
{
    public static ChoiceItem Item(Chance chance, int number) =>
        (number % 3) switch
        {
            0 => HowHeld(chance),
            1 => Cone(chance),
            _ => Cups(chance),
        };

    /// <summary>Four cones that overlap; the hole lies in the middle of one of them.</summary>
    private static ChoiceItem Cone(Chance chance)
    {
        var (width, step) = ((int)Math.Round(chance.Between(20, 26)), (int)Math.Round(chance.Between(11, 15)));
        var from = (int)Math.Round(chance.Between(34, 44));
        List<Adapter> cones =
        [
            .. Enumerable
                .Range(0, 4)
                .Select(i => new Adapter
                {
                    Name = "",
                    Kind = AdapterKind.Cone,
                    Least = Mm(from + i * step),
                    Greatest = Mm(from + i * step + width),
                }),
        ];
        var right = cones[(int)(chance.Share() * 4)];
        var hole = Mm((decimal)Math.Round((double)right.Least.Millimetres + width * chance.Between(0.44, 0.56), 1));
        var best = cones.MinBy(c => Math.Abs(c.Enters(hole) - 0.5))!;
        return new(
            new Ask.ConeForHole(hole),
            [.. cones.Select(c => new Choice.Adapter(c, c == best ? MistakeCause.None : MistakeCause.DoesNotCentre))]
        );
    }

    /// <summary>
    /// Four pairs of cups: some too large to seat flat or to leave the cutter room, some smaller than need be, one into which the cone does
    /// not go.
    /// </summary>
    private static ChoiceItem Cups(Chance chance)
    {
        var part = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        var hole = (decimal)Math.Round(chance.Between(58, 74), 1);
        var cone = Math.Ceiling(hole + 10);
        int[] outside = [.. Enumerable.Range(0, 4).Select(i => (int)cone + 16 + i * (14 + (int)(chance.Share() * 5)))];
        List<Adapter> cups =
        [
            .. outside.Select(
                (o, i) =>
                    new Adapter
                    {
                        Name = "",
                        Kind = AdapterKind.Cup,
                        Outside = Mm(o),
                        Recess = i == 0 ? Mm(cone - 4) : Mm(cone + 3),
                    }
            ),
        ];
        var best = 1 + (int)(chance.Share() * 3);
        var register = outside[best] + (decimal)Math.Round(chance.Between(2, best == 3 ? 12 : outside[best + 1] - outside[best] - 2));
        // In a drum the room of the cutter may be what ends it: then the machined face takes the next size as well.
        Length? size = null,
            room = null;
        if (part == PartKind.Drum)
        {
            room = Mm(35);
            var byRoom = best < 3 && chance.Happens(0.5);
            size = byRoom
                ? Mm(outside[best] + 70 + (decimal)Math.Round(chance.Between(1, outside[best + 1] - outside[best] - 1)))
                : Mm(Math.Max(outside[3], register) + 100);
            if (byRoom)
                register = outside[best + 1] + 4;
        }
        bool Seats(Adapter c) => c.Outside <= Mm(register);
        bool Leaves(Adapter c) => size is not { } inside || (inside - c.Outside) / 2 >= room!.Value;
        MistakeCause Of(Adapter c) =>
            c == cups[best] ? MistakeCause.None
            : c.Recess <= Mm(cone) || !Seats(c) || !Leaves(c) ? MistakeCause.DoesNotSeat
            : MistakeCause.LargerSeats;
        return new(
            new Ask.CupsForPart(part, Mm(register), Mm(hole), Mm(cone), size, room),
            [.. cups.Select(c => new Choice.Adapter(c, Of(c)))]
        );
    }

    private static ChoiceItem HowHeld(Chance chance)
    {
        var part = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        var hubbed = chance.Happens(0.4);
        var hole = hubbed ? (Length?)null : Mm((decimal)Math.Round(chance.Between(56, 80), 1));
        MistakeCause Of(MountWay way) =>
            (way, hubbed) switch
            {
                (MountWay.RaceCones, true) or (MountWay.ConeAndCups, false) => MistakeCause.None,
                _ => MistakeCause.HeldWrongly,
            };
        return new(
            new Ask.HowHeld(part, hubbed, hole),
            DrillItems.Mixed(
                chance,
                new[] { MountWay.ConeAndCups, MountWay.RaceCones, MountWay.Table }.Select(w => new Choice.Held(w, Of(w)))
            )
        );
    }

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);
}
