using Uncial.Core.Parts;

namespace Uncial.Core.Vehicles;

/// <summary>How a vehicle stands on the road.</summary>
public enum LayoutKind
{
    /// <summary>Car or van: two axles.</summary>
    Car,

    /// <summary>Motorcycle: a front wheel with one or two rotors, and a rear wheel.</summary>
    Motorcycle,

    /// <summary>Trailer: one to four axles.</summary>
    Trailer,

    /// <summary>Truck or bus: two to five axles, with single or twin wheels.</summary>
    Truck,

    /// <summary>Anything else: its positions have names.</summary>
    Other,
}

/// <summary>What is wrong with a layout.</summary>
public enum LayoutFault
{
    /// <summary>More or fewer axles than such a vehicle has.</summary>
    Axles,

    /// <summary>A motorcycle's front wheel has one rotor or two.</summary>
    FrontRotors,

    /// <summary>Twin wheels stand on an axle of a truck or trailer that is there.</summary>
    TwinWheels,

    /// <summary>Between one name and twenty, each of 1 to 20 characters, none twice.</summary>
    Names,

    /// <summary>The text is none of a layout.</summary>
    Text,
}

/// <summary>Axles and positions of a vehicle.</summary>
public sealed record Layout
{
    /// <summary>As many names as a drawing of positions holds.</summary>
    public const int MostNames = 20;

    /// <summary>Longest name of a position, in characters.</summary>
    public const int LongestName = 20;

    private Layout(LayoutKind kind, int axles, int frontRotors, IReadOnlyList<int> twin, IReadOnlyList<string> names) =>
        (Kind, Axles, FrontRotors, Twin, Names, Positions) = (
            kind,
            axles,
            frontRotors,
            twin,
            names,
            [.. List(kind, axles, frontRotors, names)]
        );

    /// <summary>What kind of vehicle it is.</summary>
    public LayoutKind Kind { get; }

    /// <summary>Axles, the front one first; 0 where the positions have names.</summary>
    public int Axles { get; }

    /// <summary>Rotors of a motorcycle's front wheel, 1 or 2; otherwise 0.</summary>
    public int FrontRotors { get; }

    /// <summary>Axles with twin wheels, in ascending order. Twin wheels share the brake of their side.</summary>
    public IReadOnlyList<int> Twin { get; }

    /// <summary>Names of the positions of another vehicle.</summary>
    public IReadOnlyList<string> Names { get; }

    /// <summary>Every position, axle by axle from the front, the left one first.</summary>
    public IReadOnlyList<Position> Positions { get; }

    /// <summary>Car or van.</summary>
    public static Layout Car { get; } = new(LayoutKind.Car, 2, 0, [], []);

    /// <summary>A motorcycle with so many rotors at its front wheel.</summary>
    public static (Layout? Layout, LayoutFault? Fault) Motorcycle(int frontRotors) =>
        frontRotors is 1 or 2 ? (new(LayoutKind.Motorcycle, 2, frontRotors, [], []), null) : (null, LayoutFault.FrontRotors);

    /// <summary>A trailer of one to four axles.</summary>
    public static (Layout? Layout, LayoutFault? Fault) Trailer(int axles, params IReadOnlyList<int> twin) =>
        axles is < 1 or > 4 ? (null, LayoutFault.Axles) : WithTwin(LayoutKind.Trailer, axles, twin);

    /// <summary>A truck or bus of two to five axles.</summary>
    public static (Layout? Layout, LayoutFault? Fault) Truck(int axles, params IReadOnlyList<int> twin) =>
        axles is < 2 or > 5 ? (null, LayoutFault.Axles) : WithTwin(LayoutKind.Truck, axles, twin);

    /// <summary>
    /// A vehicle whose positions have names. Two names that differ in a last word "L" and "R" alone are the sides of one axle.
    /// </summary>
    public static (Layout? Layout, LayoutFault? Fault) Other(IReadOnlyList<string> names)
    {
        ArgumentNullException.ThrowIfNull(names);
        var clean = names.Select(n => string.Join(' ', n.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))).ToList();
        var fits =
            clean.Count is >= 1 and <= MostNames
            && clean.TrueForAll(n => n.Length is >= 1 and <= LongestName && n.IndexOfAny(['|', ':']) < 0)
            && clean.Distinct(StringComparer.OrdinalIgnoreCase).Count() == clean.Count;
        return fits ? (new(LayoutKind.Other, 0, 0, [], clean), null) : (null, LayoutFault.Names);
    }

    /// <summary>As it is stored: "car", "motorcycle:2", "truck:3:2,3", "other:Boom L|Boom R".</summary>
    public string Text =>
        Kind switch
        {
            LayoutKind.Car => "car",
            LayoutKind.Motorcycle => FormattableString.Invariant($"motorcycle:{FrontRotors}"),
            LayoutKind.Other => "other:" + string.Join('|', Names),
            _ => FormattableString.Invariant($"{(Kind == LayoutKind.Truck ? "truck" : "trailer")}:{Axles}")
                + (Twin.Count == 0 ? "" : ":" + string.Join(',', Twin)),
        };

    /// <summary>Reads what <see cref="Text"/> writes.</summary>
    public static (Layout? Layout, LayoutFault? Fault) Parse(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var parts = text.Split(':', 3);
        if (parts is ["car"])
            return (Car, null);
        if (parts is ["other", var names])
            return Other(names.Split('|'));
        if (parts.Length < 2 || !TryCount(parts[1], out var count))
            return (null, LayoutFault.Text);
        List<int> twin = [];
        foreach (var axle in parts.Length < 3 ? [] : parts[2].Split(','))
        {
            if (!TryCount(axle, out var number))
                return (null, LayoutFault.Text);
            twin.Add(number);
        }
        return parts[0] switch
        {
            "motorcycle" when parts.Length == 2 => Motorcycle(count),
            "trailer" => Trailer(count, twin),
            "truck" => Truck(count, twin),
            _ => (null, LayoutFault.Text),
        };
    }

    /// <summary>The position of a code; null where this vehicle has none such.</summary>
    public Position? Find(string code) => Positions.FirstOrDefault(p => p.Code == code);

    /// <summary>The position of a corner of a car or van; null elsewhere.</summary>
    public Position? Of(Corner corner) =>
        Kind != LayoutKind.Car
            ? null
            : corner switch
            {
                Corner.FrontLeft => Positions[0],
                Corner.FrontRight => Positions[1],
                Corner.RearLeft => Positions[2],
                Corner.RearRight => Positions[3],
                _ => null,
            };

    /// <summary>
    /// The other side of the same axle: its parts are a pair. Null for a wheel that stands alone and a name that has no other side.
    /// </summary>
    public Position? Opposite(Position position)
    {
        ArgumentNullException.ThrowIfNull(position);
        if (!Positions.Contains(position))
            return null;
        return Positions.FirstOrDefault(p => p != position && p.Pair == position.Pair);
    }

    /// <inheritdoc/>
    public bool Equals(Layout? other) => other is not null && Text == other.Text;

    /// <inheritdoc/>
    public override int GetHashCode() => StringComparer.Ordinal.GetHashCode(Text);

    private static bool TryCount(string text, out int count) =>
        int.TryParse(text, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out count);

    private static (Layout?, LayoutFault?) WithTwin(LayoutKind kind, int axles, IReadOnlyList<int> twin)
    {
        var sorted = twin.Distinct().Order().ToList();
        return sorted.Count == twin.Count && sorted.TrueForAll(a => a >= 1 && a <= axles)
            ? (new(kind, axles, 0, sorted, []), null)
            : (null, LayoutFault.TwinWheels);
    }

    private static IEnumerable<Position> List(LayoutKind kind, int axles, int frontRotors, IReadOnlyList<string> names)
    {
        switch (kind)
        {
            case LayoutKind.Car:
                return
                [
                    new("A1L", "FL", "A1", 1, AxleSide.Left),
                    new("A1R", "FR", "A1", 1, AxleSide.Right),
                    new("A2L", "RL", "A2", 2, AxleSide.Left),
                    new("A2R", "RR", "A2", 2, AxleSide.Right),
                ];
            case LayoutKind.Motorcycle:
                return frontRotors == 1
                    ? [new("F", "F", "F", 1, AxleSide.Middle), new("R", "R", "R", 2, AxleSide.Middle)]
                    :
                    [
                        new("FL", "F L", "F", 1, AxleSide.Left),
                        new("FR", "F R", "F", 1, AxleSide.Right),
                        new("R", "R", "R", 2, AxleSide.Middle),
                    ];
            case LayoutKind.Other:
                return names.Select((name, i) => new Position(FormattableString.Invariant($"N{i + 1}"), name, Stem(name), 0, SideOf(name)));
            default:
                return Enumerable
                    .Range(1, axles)
                    .SelectMany(axle => new[] { AxleSide.Left, AxleSide.Right }.Select(side => OfAxle(axle, side)));
        }
    }

    private static Position OfAxle(int axle, AxleSide side)
    {
        var (name, letter) = (FormattableString.Invariant($"A{axle}"), side == AxleSide.Left ? "L" : "R");
        return new(name + letter, $"{name} {letter}", name, axle, side);
    }

    private static AxleSide SideOf(string name) =>
        name.EndsWith(" L", StringComparison.Ordinal) ? AxleSide.Left
        : name.EndsWith(" R", StringComparison.Ordinal) ? AxleSide.Right
        : AxleSide.Middle;

    private static string Stem(string name) => SideOf(name) == AxleSide.Middle ? name : name[..^2].ToUpperInvariant() + " ";
}
