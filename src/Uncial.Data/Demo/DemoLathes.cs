using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Data.Demo;

/// <summary>The lathes, adapters and part sizes of the demo. All made up.</summary>
internal static class DemoLathes
{
    public static IEnumerable<ShopLathe> All() =>
        [
            new()
            {
                Address = "127.0.0.1:5094",
                Profile = new()
                {
                    Name = "Quay lathe",
                    Division = Mm(0.01m),
                    DialAllowance = Mm(0.01m),
                    NoseRadius = Mm(0.8m),
                    Feeds = [new("1", Mm(0.06m)), new("2", Mm(0.12m)), new("3", Mm(0.25m)), new("4", Mm(0.40m))],
                    RoughFeed = "3",
                    FinishFeed = "1",
                    Speeds = [60m, 85m, 110m, 150m, 200m],
                    Arbor = new(Mm(25m), Mm(240m), Mm(90m), Mm(22m)),
                    Rotors = new(Mm(180m), Mm(380m)),
                    Drums = new(Mm(150m), Mm(330m)),
                },
            },
            new()
            {
                Profile = new()
                {
                    Name = "Old capstan",
                    Kind = LatheKind.Engine,
                    Division = Mm(0.02m),
                    CountsDiameter = true,
                    DialAllowance = Mm(0.02m),
                    DivisionsPerTurn = 100,
                    NoseRadius = Mm(0.4m),
                    FastestSurface = 60,
                    Feeds = [new("A", Mm(0.05m)), new("B", Mm(0.10m)), new("C", Mm(0.20m))],
                    RoughFeed = "C",
                    FinishFeed = "A",
                    Speeds = [28m, 400m],
                    Stepless = true,
                    Gears = [70m, 140m, 330m],
                    Drive = new(0.4m, 1.2m),
                    TwinCutter = false,
                    BothFacesInOneChucking = true,
                    Rotors = new(Mm(120m), Mm(420m)),
                    Drums = new(Mm(120m), Mm(420m)),
                    RotorHead = "single tool",
                    DrumHead = "boring tool",
                    ChangeOverMinutes = 4m,
                    RunInTurns = 0m,
                    Locks = [new("Top slide", true, true), new("Carriage", true, false), new("Cross slide", false, true)],
                    RotorLever = "towards you",
                    DrumLever = "out of the drum",
                    OverhangMark = Mm(70m),
                    EdgesPerInsert = 4,
                },
            },
            new()
            {
                Profile = new()
                {
                    Name = "Slip grinder",
                    Kind = LatheKind.Grinder,
                    Division = Mm(0.0025m),
                    DialAllowance = Mm(0.01m),
                    DivisionsPerTurn = 100,
                    NoseRadius = Mm(0.8m),
                    FastestSurface = 90,
                    Feeds = [new("slow", Length.Zero, Mm(20m)), new("fast", Length.Zero, Mm(60m))],
                    RoughFeed = "fast",
                    FinishFeed = "slow",
                    Speeds = [40m, 60m],
                    TwinCutter = false,
                    Rotors = new(Mm(100m), Mm(400m)),
                    CutsDrums = false,
                    RotorHead = "wheel head",
                    ChangeOverMinutes = 0m,
                    RunInTurns = 0m,
                    Locks = [new("Table magnet", true, true), new("Column", true, true)],
                    RotorLever = "across the ring",
                },
            },
        ];

    public static IEnumerable<ShopTechnique> Techniques() =>
        [new() { Spec = new("Quay slow", Mm(0.04m), Mm(0.10m), Mm(0.04m), Mm(0.06m), 0, 8) }];

    public static IEnumerable<BoardAdapter> Board() =>
        (
            (IEnumerable<Adapter>)
                [
                    Cone("Cone 1", 38, 58),
                    Cone("Cone 2", 52, 72),
                    Cone("Cone 3", 60, 84),
                    Cone("Cone 4", 80, 106),
                    Cup("Cups 95", 95, 76),
                    Cup("Cups 120", 120, 88),
                    Cup("Cups 135", 135, 90),
                    Cup("Cups 150", 150, 112),
                    Cup("Cups 175", 175, 135),
                    Spacer("Spacer 5", 5, 2),
                    Spacer("Spacer 12", 12, 1),
                    Spacer("Spacer 25", 25, 2),
                    Spacer("Spacer 50", 50, 2),
                    new()
                    {
                        Name = "Chuck 55–85",
                        Kind = AdapterKind.Chuck,
                        Bore = Mm(25m),
                        Least = Mm(55m),
                        Greatest = Mm(85m),
                        Height = Mm(42m),
                    },
                    new()
                    {
                        Name = "Plate 110",
                        Kind = AdapterKind.Plate,
                        Outside = Mm(110m),
                        Recess = Mm(86m),
                        Height = Mm(9m),
                    },
                    new()
                    {
                        Name = "Plate 128",
                        Kind = AdapterKind.Plate,
                        Outside = Mm(128m),
                        Recess = Mm(90m),
                        Height = Mm(9m),
                    },
                    new()
                    {
                        Name = "Race cone A",
                        Kind = AdapterKind.RaceCone,
                        Bore = Mm(25m),
                        Least = Mm(30m),
                        Greatest = Mm(46m),
                        Height = Mm(26m),
                        Count = 2,
                    },
                    new()
                    {
                        Name = "Race cone B",
                        Kind = AdapterKind.RaceCone,
                        Bore = Mm(25m),
                        Least = Mm(42m),
                        Greatest = Mm(64m),
                        Height = Mm(30m),
                        Count = 2,
                    },
                    new()
                    {
                        Name = "Reversed jaws",
                        Kind = AdapterKind.Jaws,
                        Bore = Mm(60m),
                        Least = Mm(45m),
                        Greatest = Mm(210m),
                        Height = Mm(70m),
                    },
                    new()
                    {
                        Name = "Face plate 360",
                        Kind = AdapterKind.Plate,
                        Bore = Mm(60m),
                        Outside = Mm(360m),
                        Recess = Mm(40m),
                        Height = Mm(40m),
                    },
                ]
        ).Select(a => new BoardAdapter { Spec = a });

    /// <summary>Sizes of the parts that somebody has measured, by vehicle and kind.</summary>
    public static MountShape? ShapeOf(string vehicle, PartKind kind) =>
        (vehicle, kind) switch
        {
            ("Brindle L3 van", _) => new()
            {
                Hole = Mm(72m),
                Register = Mm(146m),
                Depth = Mm(52m),
                Web = Mm(8m),
                Vented = true,
            },
            ("Pilchard city car", _) => new()
            {
                Hole = Mm(60m),
                Register = Mm(132m),
                Depth = Mm(48m),
                Web = Mm(6m),
            },
            ("Ottershaw 4x4", PartKind.Rotor) => new()
            {
                Hole = Mm(78m),
                Register = Mm(158m),
                Depth = Mm(60m),
                Web = Mm(9m),
                Vented = true,
            },
            ("Ottershaw 4x4", _) => new()
            {
                Hole = Mm(78m),
                Register = Mm(160m),
                Depth = Mm(66m),
                Web = Mm(8m),
            },
            ("School minibus Gannet 16", PartKind.Rotor) => new()
            {
                Hole = Mm(92m),
                Register = Mm(168m),
                Depth = Mm(46m),
                Web = Mm(10m),
                Vented = true,
            },
            ("Fulmar 90 saloon, 1958", _) => new()
            {
                Hubbed = true,
                NearRace = Mm(54m),
                FarRace = Mm(40m),
                RacesApart = Mm(62m),
                Depth = Mm(50m),
            },
            _ => null,
        };

    private static Adapter Cone(string name, decimal least, decimal greatest) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Cone,
            Bore = Mm(25m),
            Least = Mm(least),
            Greatest = Mm(greatest),
            Height = Mm(34m),
        };

    private static Adapter Cup(string name, decimal outside, decimal recess) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Cup,
            Bore = Mm(25m),
            Outside = Mm(outside),
            Recess = Mm(recess),
            Height = Mm(32m),
            Count = 2,
        };

    private static Adapter Spacer(string name, decimal height, int count) =>
        new()
        {
            Name = name,
            Kind = AdapterKind.Spacer,
            Bore = Mm(25m),
            Outside = Mm(45m),
            Height = Mm(height),
            Count = count,
        };

    private static Length Mm(decimal millimetres) => Length.FromMillimetres(millimetres);
}
