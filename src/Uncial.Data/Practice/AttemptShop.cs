using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;

namespace Uncial.Data.Practice;

/// <summary>What things are called in the shop of an attempt.</summary>
/// <param name="Shop">The shop.</param>
/// <param name="Trainee">Who practises.</param>
/// <param name="Lathe">Its lathe.</param>
/// <param name="Vehicle">The vehicle of the job.</param>
/// <param name="Gauge">A gauge.</param>
/// <param name="Cone">A cone, with its number.</param>
/// <param name="Cups">A pair of cups.</param>
/// <param name="Spacer">A spacer, with its height in millimetres.</param>
public sealed record AttemptNames(
    string Shop,
    string Trainee,
    string Lathe,
    string Vehicle,
    Func<GaugeDesign, string> Gauge,
    Func<int, string> Cone,
    Func<int, string> Cups,
    Func<int, string> Spacer
);

/// <summary>Fills the shop of an attempt with what its lesson says: trainee, gauges, lathe, adapters, a job and its part.</summary>
public static class AttemptShop
{
    /// <summary>How high a part of a lesson stands over its web: what a set-up needs to know and no lesson turns on.</summary>
    private const decimal DepthMm = 45m;

    /// <summary>Does nothing where it is filled already.</summary>
    /// <param name="db">The shop of the attempt.</param>
    /// <param name="attempt">The attempt.</param>
    /// <param name="names">What things are called.</param>
    /// <param name="at">When.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task FoundAsync(UncialDb db, Attempt attempt, AttemptNames names, DateTimeOffset at, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(attempt);
        ArgumentNullException.ThrowIfNull(names);
        var lesson = attempt.Lesson;
        var shop = Shop.New(names.Shop);
        shop.Id = (int)attempt.Id;
        shop.Gauges.Clear();
        shop.Lathes.Clear();
        shop.Board.Clear();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // One by one: their order is that of the lesson.
        db.Shops.Add(shop);
        var trainee = new Operator
        {
            UserName = "trainee",
            DisplayName = names.Trainee,
            // What is done is done at the bench: the stations tell the steps in one instead of having each of them ticked.
            ExperiencedSince = at,
        };
        db.Operators.Add(trainee);
        await db.SaveChangesAsync(cancel);
        foreach (var gauge in lesson.Gauges)
        {
            shop.Gauges.Add(GaugeOf(gauge.Design, names.Gauge(gauge.Design)));
            await db.SaveChangesAsync(cancel);
        }
        foreach (var adapter in PracticeBoard.Adapters(names.Cone, names.Cups, names.Spacer))
        {
            shop.Board.Add(new() { Spec = adapter });
            await db.SaveChangesAsync(cancel);
        }
        shop.Lathes.Add(new() { Profile = PracticeBoard.LatheOf(lesson.Lathe, names.Lathe) });
        db.Jobs.Add(
            new()
            {
                Vehicle = names.Vehicle,
                ReceivedAt = at,
                ReceivedById = trainee.Id,
                Parts = { PartOf(attempt, lesson) },
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static Part PartOf(Attempt attempt, Lesson lesson)
    {
        var part = lesson.Part;
        Part of = new()
        {
            Tag = attempt.Tag,
            Corner = Corner.FrontLeft,
            Shape = new()
            {
                Hole = Mm(part.HoleMm),
                Register = Mm(part.FaceMm),
                Depth = Length.FromMillimetres(DepthMm),
                Web = Mm(part.WebMm),
            },
        };
        for (var number = 1; number <= lesson.Surfaces; number++)
            of.Surfaces.Add(SurfaceOf(attempt.On(number)));
        return of;
    }

    private static WorkSurface SurfaceOf(AttemptSurface surface)
    {
        var part = surface.Lesson.Part;
        var rotor = part.Kind == PartKind.Rotor;
        return new()
        {
            Kind = part.Kind,
            InHat = surface.Number > 1,
            Diameter = Mm(rotor ? 2 * part.EdgeMm : part.NominalMm),
            Band = Mm(surface.Lesson.Draw(surface.Seed).BandMm),
            Places = rotor ? 8 : 4,
        };
    }

    private static Gauge GaugeOf(GaugeDesign design, string name) =>
        new()
        {
            Name = name,
            Kind = design.Form switch
            {
                GaugeForm.Micrometer => GaugeKind.Micrometer,
                GaugeForm.VernierCaliper or GaugeForm.DialCaliper => GaugeKind.Caliper,
                GaugeForm.BarEighths => GaugeKind.DrumGaugeEighths,
                GaugeForm.BarStarts => GaugeKind.DrumGaugeStations,
                GaugeForm.Indicator => GaugeKind.Indicator,
                _ => GaugeKind.DepthGauge,
            },
            Unit = design.IsInch ? LengthUnit.Inch : LengthUnit.Millimetre,
            Resolution = Mm(design.InMillimetres(design.Division)),
            CertificateUncertainty = Mm(Math.Max(0.003, design.InMillimetres(design.Division) * 0.6)),
            StartsMm = StartsOf(design),
            Reach = design.Form switch
            {
                GaugeForm.BarEighths => Mm(design.InMillimetres(design.Turn)),
                GaugeForm.BarStarts => Mm(design.InMillimetres(10 * design.Turn)),
                _ => null,
            },
        };

    /// <summary>The holes of a bar; of one with eighths its least and greatest whole inch.</summary>
    private static decimal[] StartsOf(GaugeDesign design) =>
        design.Form switch
        {
            GaugeForm.BarEighths => [(decimal)design.From * 25.4m, (decimal)design.To * 25.4m],
            GaugeForm.BarStarts =>
            [
                .. Enumerable
                    .Range(0, (int)Math.Round((design.To - design.From) / design.Step) + 1)
                    .Select(i => ((decimal)design.From + i * (decimal)design.Step) * (design.IsInch ? 25.4m : 1m)),
            ],
            _ => [],
        };

    private static Length Mm(double mm) => Length.FromMillimetres(Math.Round((decimal)mm, 4));
}
