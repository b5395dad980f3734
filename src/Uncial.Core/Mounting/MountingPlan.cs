using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Mounting;

/// <summary>How a part is held.</summary>
public enum MountWay
{
    /// <summary>Cone in the hole, a pair of cups on the machined face.</summary>
    ConeAndCups,

    /// <summary>Expanding chuck in the hole, backing plate on the face.</summary>
    ChuckAndPlate,

    /// <summary>Cones in the hub's own races.</summary>
    RaceCones,

    /// <summary>Hub in the jaws of an engine lathe, its face pressed on them.</summary>
    Jaws,

    /// <summary>Bolted to a face plate by its stud holes.</summary>
    FacePlate,

    /// <summary>Face down on the table of a grinder.</summary>
    Table,
}

/// <summary>A piece of the stack on the arbor, from the shoulder outwards.</summary>
public enum PieceRole
{
    /// <summary>Fills the arbor on the lathe's side.</summary>
    InnerSpacer,

    /// <summary>Cup on the lathe's side; spring and cone stand in it.</summary>
    InnerCup,

    /// <summary>Cone that centres.</summary>
    Cone,

    /// <summary>The part's web or hub.</summary>
    Part,

    /// <summary>Cup on the nut's side.</summary>
    OuterCup,

    /// <summary>Fills the arbor on the nut's side.</summary>
    OuterSpacer,

    /// <summary>The nut.</summary>
    Nut,

    /// <summary>Expanding chuck, jaws.</summary>
    Chuck,

    /// <summary>Backing plate, face plate, table.</summary>
    Plate,

    /// <summary>Race cone on the lathe's side.</summary>
    NearRaceCone,

    /// <summary>Race cone on the nut's side.</summary>
    FarRaceCone,
}

/// <summary>One piece where it stands.</summary>
/// <param name="Role">What it does there.</param>
/// <param name="Name">The adapter's name; null for part, nut and table.</param>
/// <param name="From">Distance of its near end from the shoulder.</param>
/// <param name="To">Distance of its far end.</param>
/// <param name="Outside">Diameter at its near end.</param>
/// <param name="OutsideFar">Diameter at its far end; a cone's small end.</param>
/// <param name="Recess">Diameter of its recess, or of the hole; 0 for none.</param>
public sealed record StackPiece(PieceRole Role, string? Name, Length From, Length To, Length Outside, Length OutsideFar, Length Recess);

/// <summary>A way to mount the part that fits in every dimension.</summary>
/// <param name="Way">How it is held.</param>
/// <param name="Centring">Name of the adapter that centres it; what a wobble is put down to.</param>
/// <param name="Seat">Diameter up to which it is seated: the wider, the less a grain of dirt tilts it.</param>
/// <param name="Stack">The pieces from the shoulder outwards; cone and chuck lie inside others.</param>
/// <param name="Why">Why these and not others.</param>
public sealed record MountOption(MountWay Way, string Centring, Length Seat, IReadOnlyList<StackPiece> Stack, IReadOnlyList<Note> Why)
{
    /// <summary>Whether another part is held by the same pieces in the same order.</summary>
    public bool IsHeldLike(MountOption? other) =>
        other is not null
        && (Way, Centring) == (other.Way, other.Centring)
        && Stack.Select(p => (p.Role, p.Name)).SequenceEqual(other.Stack.Select(p => (p.Role, p.Name)));
}

/// <summary>How a part can be mounted on a lathe: the best way first, and what speaks against the others.</summary>
/// <param name="Ways">What fits, the best first.</param>
/// <param name="Misfits">What does not, each with the dimension that fails; with nothing that fits, these are the reasons.</param>
/// <param name="Missing">Sizes of the part that are needed and not known.</param>
public sealed record MountingPlan(IReadOnlyList<MountOption> Ways, IReadOnlyList<Note> Misfits, IReadOnlyList<string> Missing)
{
    /// <summary>A cone enters well when between these shares of its length are in the hole: about half-way, standing proud.</summary>
    private const double LeastEntry = 0.2,
        MostEntry = 0.8;

    /// <summary>The open edge stays so far from the lathe's shoulder.</summary>
    private static readonly Length Clearance = Length.FromMillimetres(3);

    /// <summary>Narrowest ring on which a cup or plate seats.</summary>
    private static readonly Length NarrowestSeat = Length.FromMillimetres(3);

    /// <summary>Picks adapters for a part.</summary>
    /// <param name="part">Rotor or drum.</param>
    /// <param name="diameter">Outside of the rotor, inside of the drum; 0 where not known.</param>
    /// <param name="shape">Its sizes.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="board">The adapters of the shop.</param>
    public static MountingPlan For(PartKind part, Length diameter, MountShape shape, Lathe lathe, IReadOnlyList<Adapter> board)
    {
        ArgumentNullException.ThrowIfNull(shape);
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(board);
        if (Refusal(part, diameter, shape, lathe) is { } refusal)
            return new([], [refusal], []);
        if (lathe.Kind == LatheKind.Grinder)
            return new([OnTable(lathe, shape, diameter)], [], []);
        if (shape.Missing is { Count: > 0 } missing)
            return new([], [], missing);

        var search = new Search(part, diameter, shape, lathe, board);
        if (lathe.Kind == LatheKind.Engine)
            search.OnEngineLathe();
        else if (shape.Hubbed)
            search.OnRaces();
        else
        {
            search.OnCone();
            search.OnChuck();
        }
        return search.Result;
    }

    private static Note? Refusal(PartKind part, Length diameter, MountShape shape, Lathe lathe)
    {
        if (lathe.RangeOf(part) is not { } range)
            return part == PartKind.Rotor ? new Note.TakesNoRotors(lathe.Name) : new Note.TakesNoDrums(lathe.Name);
        if (diameter > range.Greatest)
            return new Note.PartTooLarge(diameter, range.Greatest);
        if (diameter > Length.Zero && diameter < range.Least)
            return new Note.PartTooSmall(diameter, range.Least);
        return lathe.Kind == LatheKind.Grinder && shape.Hubbed ? new Note.HubNotFlat() : null;
    }

    private static MountOption OnTable(Lathe lathe, MountShape shape, Length diameter)
    {
        var (table, web, face) = (Length.FromMillimetres(20), shape.Web ?? Length.FromMillimetres(8), shape.Register ?? diameter / 2);
        return new(
            MountWay.Table,
            lathe.Name,
            shape.Register ?? diameter,
            [
                new(PieceRole.Plate, null, Length.Zero, table, lathe.Rotors.Greatest, lathe.Rotors.Greatest, Length.Zero),
                new(PieceRole.Part, null, table, table + web, face, face, shape.Hole ?? Length.Zero),
            ],
            [new Note.OnTable()]
        );
    }

    /// <summary>One search over the board.</summary>
    private sealed class Search(PartKind part, Length diameter, MountShape shape, Lathe lathe, IReadOnlyList<Adapter> board)
    {
        private readonly List<MountOption> ways = [];
        private readonly List<Note> misfits = [];
        private readonly IReadOnlyList<Adapter> fitting = [.. board.Where(a => lathe.Arbor is not { } arbor || a.Fits(arbor.Diameter))];

        public MountingPlan Result =>
            new([.. ways.OrderByDescending(w => Math.Round((double)w.Seat.Millimetres / 10)).ThenBy(w => w.Way)], misfits, []);

        public void OnCone()
        {
            var hole = shape.Hole!.Value;
            var cones = Of(AdapterKind.Cone)
                .Where(c => c.Enters(hole) is >= LeastEntry and <= MostEntry)
                .OrderBy(c => Math.Abs(c.Enters(hole) - 0.5))
                .ToList();
            if (cones.Count == 0)
            {
                misfits.Add(Nearest(AdapterKind.Cone, hole));
                return;
            }
            var seats = Seats(AdapterKind.Cup);
            if (seats.Count == 0)
                return;
            // The cone stands in the cups, so the largest cup that seats is looked for among those that it goes into.
            foreach (var cup in seats)
            {
                if (cones.Find(c => c.Greatest < cup.Recess) is not { } cone)
                {
                    misfits.Add(new Note.ConeTooWideForCup(cones[0].Greatest, cup.Recess, cup.Name));
                    continue;
                }
                if (!Fill(cup.Height, shape.Web!.Value, cup.Height, out var inner, out var outer))
                    return;
                ways.Add(
                    new(
                        MountWay.ConeAndCups,
                        cone.Name,
                        cup.Outside,
                        Stack(cup, cone, inner, outer),
                        [
                            new Note.ConeEnters(cone.Least, cone.Greatest, (decimal)Math.Round(cone.Enters(hole) * 100), cone.Name),
                            CupNote(cup),
                            .. inner.Count + outer.Count > 0 ? new[] { new Note.SpacersFill(Sum(inner), Sum(outer)) } : [],
                        ]
                    )
                );
                return;
            }
        }

        public void OnChuck()
        {
            var hole = shape.Hole!.Value;
            if (Of(AdapterKind.Chuck).Where(c => hole >= c.Least && hole <= c.Greatest).MinBy(c => c.Greatest - c.Least) is not { } chuck)
            {
                misfits.Add(Nearest(AdapterKind.Chuck, hole));
                return;
            }
            if (Seats(AdapterKind.Plate) is not [var plate, ..])
                return;
            if (!Fill(chuck.Height + plate.Height, shape.Web!.Value, Length.Zero, out var inner, out _, nut: false))
                return;
            var at = Sum(inner);
            var stack = Spacers(inner, Length.Zero, PieceRole.InnerSpacer);
            stack.Add(new(PieceRole.Chuck, chuck.Name, at, at + chuck.Height + plate.Height + shape.Web.Value, hole, hole, Length.Zero));
            stack.Add(
                new(
                    PieceRole.Plate,
                    plate.Name,
                    at + chuck.Height,
                    at + chuck.Height + plate.Height,
                    plate.Outside,
                    plate.Outside,
                    plate.Recess
                )
            );
            stack.Add(PartAt(at + chuck.Height + plate.Height, shape.Web.Value));
            ways.Add(
                new(
                    MountWay.ChuckAndPlate,
                    chuck.Name,
                    plate.Outside,
                    stack,
                    [
                        new Note.ChuckGrips(chuck.Least, chuck.Greatest, chuck.Name),
                        new Note.LargestPlate(plate.Outside, shape.Register, plate.Name),
                    ]
                )
            );
        }

        public void OnRaces()
        {
            if (RaceCone(shape.NearRace!.Value) is not { } near || RaceCone(shape.FarRace!.Value, except: near) is not { } far)
                return;
            if (!Fill(near.Height, shape.RacesApart!.Value, far.Height, out var inner, out var outer))
                return;
            var at = Sum(inner);
            var stack = Spacers(inner, Length.Zero, PieceRole.InnerSpacer);
            var hubFrom = at + near.Height;
            var hubTo = hubFrom + shape.RacesApart.Value;
            stack.Add(new(PieceRole.NearRaceCone, near.Name, at, hubFrom, near.Greatest, near.Least, Length.Zero));
            stack.Add(new(PieceRole.Part, null, hubFrom, hubTo, shape.NearRace.Value, shape.FarRace.Value, shape.FarRace.Value));
            stack.Add(new(PieceRole.FarRaceCone, far.Name, hubTo, hubTo + far.Height, far.Least, far.Greatest, Length.Zero));
            stack.AddRange(Spacers(outer, hubTo + far.Height, PieceRole.OuterSpacer));
            stack.Add(NutAt(hubTo + far.Height + Sum(outer)));
            ways.Add(
                new(
                    MountWay.RaceCones,
                    near.Name,
                    shape.RacesApart.Value,
                    stack,
                    [
                        new Note.RaceConeEnters(shape.NearRace, (decimal)Math.Round(near.Enters(shape.NearRace.Value) * 100), near.Name),
                        new Note.RaceConeEnters(shape.FarRace, (decimal)Math.Round(far.Enters(shape.FarRace.Value) * 100), far.Name),
                    ]
                )
            );
        }

        public void OnEngineLathe()
        {
            var grips = shape.Hubbed ? shape.FarRace!.Value : shape.Hole!.Value;
            var seat = shape.Register ?? grips;
            if (Of(AdapterKind.Jaws).FirstOrDefault(j => grips >= j.Least && grips <= j.Greatest) is { } jaws)
                ways.Add(
                    new(
                        MountWay.Jaws,
                        jaws.Name,
                        grips,
                        Held(PieceRole.Chuck, jaws, grips),
                        [new Note.JawsGrip(jaws.Least, jaws.Greatest, jaws.Name)]
                    )
                );
            else
                misfits.Add(Nearest(AdapterKind.Jaws, grips));
            if (shape.Hubbed)
                return;
            if (Of(AdapterKind.Plate).Where(p => p.Outside >= seat && p.Recess <= shape.Hole!.Value).MinBy(p => p.Outside) is { } plate)
                ways.Add(
                    new(
                        MountWay.FacePlate,
                        plate.Name,
                        seat,
                        Held(PieceRole.Plate, plate, plate.Outside),
                        [new Note.FacePlateCarries(plate.Outside, seat, plate.Name)]
                    )
                );
            else
                misfits.Add(new Note.NoFacePlate(seat));
        }

        private IReadOnlyList<StackPiece> Held(PieceRole role, Adapter holder, Length outside) =>
            [
                new(role, holder.Name, Length.Zero, holder.Height, outside, outside, holder.Recess),
                PartAt(holder.Height, shape.Web ?? shape.RacesApart ?? Length.FromMillimetres(10)),
            ];

        private IEnumerable<Adapter> Of(AdapterKind kind) => fitting.Where(a => a.Kind == kind);

        /// <summary>Cups or plates that seat flat on the machined face and leave the cutter its room, the largest first.</summary>
        private List<Adapter> Seats(AdapterKind kind)
        {
            var (hole, register) = (shape.Hole!.Value, shape.Register!.Value);
            var seats = Of(kind)
                .Where(a => kind != AdapterKind.Cup || a.Count >= 2)
                .Where(a => a.Outside <= register && a.Outside - Length.Max(a.Recess, hole) >= 2 * NarrowestSeat)
                .ToList();
            if (seats.Count == 0)
            {
                var smallest = Of(kind).Select(a => (Length?)a.Outside).Min();
                misfits.Add(kind == AdapterKind.Cup ? new Note.NoCup(register, smallest) : new Note.NoPlate(register, smallest));
                return seats;
            }
            var most = part == PartKind.Drum && diameter > Length.Zero ? diameter - 2 * lathe.CutterRoom : (Length?)null;
            var leave = seats.Where(a => most is not { } room || a.Outside <= room).ToList();
            if (leave.Count == 0)
            {
                var smallest = seats.Min(a => a.Outside);
                misfits.Add(kind == AdapterKind.Cup ? new Note.NoCupForCutter(smallest, most) : new Note.NoPlateForCutter(smallest, most));
            }
            return [.. leave.OrderByDescending(a => a.Outside)];
        }

        private Note CupNote(Adapter cup)
        {
            var wider = Of(AdapterKind.Cup).Where(a => a.Count >= 2 && a.Outside > cup.Outside).MinBy(a => a.Outside);
            return wider is null || wider.Outside > shape.Register
                ? new Note.LargestCup(cup.Outside, shape.Register, cup.Name)
                : new Note.CupLeavesCutter(cup.Outside, wider.Outside, cup.Name);
        }

        private Adapter? RaceCone(Length race, Adapter? except = null)
        {
            var cone = Of(AdapterKind.RaceCone)
                .Where(c => (c != except || c.Count >= 2) && c.Enters(race) is >= LeastEntry and <= MostEntry)
                .MinBy(c => Math.Abs(c.Enters(race) - 0.5));
            if (cone is null)
                misfits.Add(Nearest(AdapterKind.RaceCone, race));
            return cone;
        }

        /// <summary>Nothing of a kind takes the hole or race: the nearest that there is.</summary>
        private Note Nearest(AdapterKind kind, Length wanted)
        {
            if (Of(kind).MinBy(a => Length.Max(a.Least - wanted, wanted - a.Greatest).Millimetres) is not { } nearest)
                return kind switch
                {
                    AdapterKind.Cone => new Note.NoConeAtAll(wanted),
                    AdapterKind.RaceCone => new Note.NoRaceConeAtAll(wanted),
                    AdapterKind.Chuck => new Note.NoChuckAtAll(wanted),
                    _ => new Note.NoJawsAtAll(wanted),
                };
            var (ends, begins, name) = (nearest.Greatest, nearest.Least.Millimetres, nearest.Name);
            return kind switch
            {
                AdapterKind.Cone => new Note.NoCone(wanted, ends, begins, name),
                AdapterKind.RaceCone => new Note.NoRaceCone(wanted, ends, begins, name),
                AdapterKind.Chuck => new Note.NoChuck(wanted, ends, begins, name),
                _ => new Note.NoJaws(wanted, ends, begins, name),
            };
        }

        /// <summary>
        /// Picks spacers: inside as few as keep the open edge off the shoulder, outside as few as bring the nut on its thread. Says what
        /// fails.
        /// </summary>
        private bool Fill(Length near, Length clamped, Length far, out List<Adapter> inner, out List<Adapter> outer, bool nut = true)
        {
            (inner, outer) = ([], []);
            List<Adapter> spacers =
            [
                .. Of(AdapterKind.Spacer).SelectMany(s => Enumerable.Repeat(s, s.Count)).OrderByDescending(s => s.Height).Take(12),
            ];
            var keepsOff = (shape.Depth ?? Length.Zero) + Clearance;
            bool KeepsOff(Length sum) => near + sum >= keepsOff;
            if (Subset(spacers, KeepsOff, byCount: true) is not { } few)
            {
                misfits.Add(new Note.CannotKeepOff(shape.Depth, near + Sum(spacers)));
                return false;
            }
            inner = few;
            if (lathe.Arbor is not { } arbor || !nut)
                return true;
            // Few and long, or more and short: the second is tried where the first leaves the nut no thread.
            Note? fails = null;
            foreach (var inside in new[] { few, Subset(spacers, KeepsOff, byCount: false)! })
            {
                List<Adapter> rest = [.. spacers];
                foreach (var used in inside)
                    rest.Remove(used);
                var filled = near + Sum(inside) + clamped + far;
                var (first, last) = (arbor.Room - arbor.Thread, arbor.Room - arbor.Nut);
                if (filled > last)
                {
                    fails ??= new Note.StackTooLong(filled, last);
                    continue;
                }
                if (Subset(rest, s => filled + s >= first && filled + s <= last, byCount: true) is not { } outside)
                {
                    fails ??= new Note.StackTooShort(filled + Sum(rest), first);
                    continue;
                }
                (inner, outer) = (inside, outside);
                return true;
            }
            misfits.Add(fails!);
            return false;
        }

        /// <summary>The fewest spacers that do and of these the shortest, or the shortest that do.</summary>
        private static List<Adapter>? Subset(List<Adapter> spacers, Func<Length, bool> does, bool byCount)
        {
            (int Pieces, Length Sum, int Pick)? best = null;
            for (var pick = 0; pick < 1 << spacers.Count; pick++)
            {
                var (pieces, sum) = (System.Numerics.BitOperations.PopCount((uint)pick), Length.Zero);
                for (var i = 0; i < spacers.Count; i++)
                    if ((pick & 1 << i) != 0)
                        sum += spacers[i].Height;
                var better =
                    best is not { } b
                    || (byCount ? (pieces, sum).CompareTo((b.Pieces, b.Sum)) < 0 : (sum, pieces).CompareTo((b.Sum, b.Pieces)) < 0);
                if (better && does(sum))
                    best = (pieces, sum, pick);
            }
            return best is { } found ? [.. spacers.Where((_, i) => (found.Pick & 1 << i) != 0)] : null;
        }

        private List<StackPiece> Stack(Adapter cup, Adapter cone, List<Adapter> inner, List<Adapter> outer)
        {
            var at = Sum(inner);
            var stack = Spacers(inner, Length.Zero, PieceRole.InnerSpacer);
            var face = at + cup.Height;
            // Where the hole stands on the cone: so much of it lies on the nut's side of the face.
            var proud = (decimal)cone.Enters(shape.Hole!.Value) * cone.Height;
            stack.Add(new(PieceRole.InnerCup, cup.Name, at, face, cup.Outside, cup.Outside, cup.Recess));
            stack.Add(new(PieceRole.Cone, cone.Name, face - (cone.Height - proud), face + proud, cone.Greatest, cone.Least, Length.Zero));
            stack.Add(PartAt(face, shape.Web!.Value));
            var far = face + shape.Web.Value;
            stack.Add(new(PieceRole.OuterCup, cup.Name, far, far + cup.Height, cup.Outside, cup.Outside, cup.Recess));
            stack.AddRange(Spacers(outer, far + cup.Height, PieceRole.OuterSpacer));
            stack.Add(NutAt(far + cup.Height + Sum(outer)));
            return stack;
        }

        private StackPiece PartAt(Length from, Length thickness) =>
            new(
                PieceRole.Part,
                null,
                from,
                from + thickness,
                shape.Register ?? Length.Zero,
                shape.Register ?? Length.Zero,
                shape.Hole ?? Length.Zero
            );

        private StackPiece NutAt(Length from) =>
            new(
                PieceRole.Nut,
                null,
                from,
                from + (lathe.Arbor?.Nut ?? Length.Zero),
                2 * (lathe.Arbor?.Diameter ?? Length.Zero),
                2 * (lathe.Arbor?.Diameter ?? Length.Zero),
                Length.Zero
            );

        private static List<StackPiece> Spacers(List<Adapter> spacers, Length from, PieceRole role)
        {
            List<StackPiece> pieces = [];
            foreach (var s in spacers)
            {
                pieces.Add(new(role, s.Name, from, from + s.Height, s.Outside, s.Outside, Length.Zero));
                from += s.Height;
            }
            return pieces;
        }

        private static Length Sum(IEnumerable<Adapter> adapters) => adapters.Aggregate(Length.Zero, (sum, a) => sum + a.Height);
    }
}
