using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Exchange;

/// <summary>What becomes of a job file here, before and when it is taken in.</summary>
/// <param name="File">The file.</param>
/// <param name="Number">Number that the job gets here: its own, or a new one where that is taken.</param>
/// <param name="Tags">Tag that each part gets: its own, or a new one where that is taken.</param>
public sealed record JobTakeIn(JobFile File, int Number, IReadOnlyList<string> Tags)
{
    /// <summary>Looks what the file would become.</summary>
    /// <param name="db">The database.</param>
    /// <param name="file">A file without faults.</param>
    /// <param name="newTag">Gives a tag that is free.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<JobTakeIn> PreviewAsync(UncialDb db, JobFile file, Func<Task<string>> newTag, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(newTag);
        // A number that is taken, or out of the range of job numbers, is not carried over.
        var number =
            file.Number is < 1 or > Job.LargestNumber || await db.Jobs.AnyAsync(j => j.Number == file.Number, cancel)
                ? (await db.Jobs.MaxAsync(j => (int?)j.Number, cancel) ?? 1000) + 1
                : file.Number;
        var wanted = file.Parts.Select(p => p.Tag).ToList();
        var taken = await db.Parts.Where(p => wanted.Contains(p.Tag)).Select(p => p.Tag).ToListAsync(cancel);
        var tags = new List<string>();
        foreach (var tag in wanted)
            tags.Add(taken.Contains(tag) ? await newTag() : tag);
        return new(file, number, tags);
    }

    /// <summary>
    /// Readings of a surface as they enter here: those that stand since its last cut. What was cut elsewhere is history; here the part
    /// begins
    /// with what it is now.
    /// </summary>
    public static IReadOnlyList<FileReading> Entering(FileSurface surface)
    {
        ArgumentNullException.ThrowIfNull(surface);
        var standing = surface.Readings.Where(r => r.Withdrawn is null).ToList();
        var last = standing.Where(r => r.Of == JobFile.Name(ReadingKind.Size)).Select(r => r.Cuts).DefaultIfEmpty().Max();
        return [.. standing.Where(r => r.Cuts == last)];
    }

    /// <summary>Takes the job in and saves it; refused where another took its number or a tag meanwhile.</summary>
    public async Task<Result<Job>> TakeInAsync(UncialDb db, Actor actor, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(db);
        var job = TakeIn(db, actor);
        return await db.TrySaveAsync(cancel) is { } refusal ? refusal : job;
    }

    /// <summary>
    /// Adds the job with its parts, limits and readings. Nothing is saved here. Readings are marked as of a file: no part leaves on them.
    /// </summary>
    public Job TakeIn(UncialDb db, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(db);
        var job = new Job
        {
            Number = Number,
            Vehicle = File.Vehicle,
            Customer = File.Customer,
            OdometerKm = File.OdometerKm,
            ReceivedAt = actor.At,
            ReceivedById = actor.Id,
        };
        foreach (var (from, tag) in File.Parts.Zip(Tags))
        {
            var part = new Part
            {
                Tag = tag,
                Corner = JobFile.Named<Corner>(from.Corner)!.Value,
                Mark = from.Mark,
                KmSinceNew = from.KmSinceNew,
            };
            foreach (var s in from.Surfaces)
                part.Surfaces.Add(Surface(s, actor));
            job.Parts.Add(part);
        }
        db.Jobs.Add(job);
        return job;
    }

    private WorkSurface Surface(FileSurface from, Actor actor)
    {
        var surface = new WorkSurface
        {
            Kind = JobFile.Named<PartKind>(from.Kind)!.Value,
            InHat = from.InHat,
            Diameter = Mm(from.DiameterMm),
            Band = Mm(from.BandMm),
            Places = from.Places,
            DepthsMm = [.. from.DepthsMm],
            MaxRunout = from.MaxRunoutMm is { } runout ? Mm(runout) : null,
            MaxVariation = from.MaxVariationMm is { } variation ? Mm(variation) : null,
        };
        foreach (var (kind, source, l) in Stated(from))
        {
            surface.Turn++;
            surface.LimitEntries.Add(
                new()
                {
                    Kind = kind,
                    Value = Mm(l.Mm),
                    Typed = l.Typed,
                    Unit = JobFile.UnitOf(l.Unit)!.Value,
                    Source = source,
                    At = actor.At,
                    ById = actor.Id,
                }
            );
        }
        foreach (var r in Entering(from))
        {
            surface.Turn++;
            var said = $"From a file of {File.Shop ?? "another shop"}: {r.Gauge ?? "gauge not named"}, {r.By ?? "operator not named"}";
            surface.Readings.Add(
                new()
                {
                    Kind = JobFile.Named<ReadingKind>(r.Of)!.Value,
                    Degrees = r.Degrees,
                    Station = r.StationMm is { } at ? Mm(at) : null,
                    Value = Mm(r.Mm),
                    Typed = r.Typed,
                    Unit = JobFile.UnitOf(r.Unit)!.Value,
                    Correction = Mm(r.CorrectionMm),
                    Resolution = Mm(r.ResolutionMm),
                    Uncertainty = Mm(r.UncertaintyMm),
                    Cuts = 0,
                    FromFile = true,
                    Note = said[..Math.Min(said.Length, 200)],
                    At = actor.At,
                    ById = actor.Id,
                }
            );
        }
        return surface;
    }

    /// <summary>
    /// The limits as they are stated here: the newest of each source. What stood in another shop's book is that shop's word, not of a book
    /// here;
    /// where two would share a source, the stricter stays.
    /// </summary>
    private static IEnumerable<(LimitKind Kind, LimitSource Source, FileLimit Limit)> Stated(FileSurface from)
    {
        var rotor = JobFile.Named<PartKind>(from.Kind) == PartKind.Rotor;
        return from
            .Limits.Select(l =>
                (Kind: JobFile.Named<LimitKind>(l.Kind)!.Value, From: JobFile.Named<LimitSource>(l.Source)!.Value, Limit: l)
            )
            .GroupBy(l => (l.Kind, l.From))
            .Select(g => g.Last())
            .GroupBy(l => (l.Kind, Source: l.From == LimitSource.LimitBook ? LimitSource.OtherShop : l.From))
            .Select(g => (g.Key.Kind, g.Key.Source, (rotor ? g.MaxBy(l => l.Limit.Mm) : g.MinBy(l => l.Limit.Mm)).Limit))
            .OrderBy(l => l.Kind);
    }

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);
}
