using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Parts;

namespace Uncial.Data;

/// <summary>A work surface as it is stored, with the state that Core works out from it. What is added later needs a new record.</summary>
public sealed class SurfaceRecord
{
    /// <summary>Reads a surface whose facts are loaded (see <see cref="WithFacts"/>).</summary>
    public SurfaceRecord(WorkSurface surface, Part part, Shop shop)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(shop);
        (Surface, Part, Shop) = (surface, part, shop);
        State = new(surface.Facts, part.Facts, shop.Workshop);
    }

    public WorkSurface Surface { get; }
    public Part Part { get; }
    public Shop Shop { get; }

    /// <summary>Everything that follows from the facts.</summary>
    public SurfaceState State { get; private set; }

    public PartKind Kind => State.Kind;
    public int CutsDone => State.CutsDone;
    public Station Station => State.Station;
    public ReceiveState Receiving => State.Receiving;
    public InspectState Inspection => State.Inspection;
    public MountState Mounting => State.Mounting;
    public MeasureState Measuring => State.Measuring;
    public PlanState Planning => State.Planning;
    public CutState Cutting => State.Cutting;
    public ConfirmState Confirming => State.Confirming;

    /// <summary>The lathe that it is on, was cut on, or will go on unless another is picked.</summary>
    public ShopLathe Lathe => Shop.Lathes.Find(l => l.Id == Mounting.Lathe.Id) ?? Shop.LatheFor(Kind, Surface.Diameter);

    /// <summary>The gauge that read it last, otherwise the shop's usual one; null where the shop has none for it.</summary>
    public Gauge? Gauge => Measuring.Gauge is { } gauge ? Shop.Gauges.Find(g => g.Id == gauge.Id) : null;

    /// <summary>The gauge that a reading was taken with; null for one by eye, or from before gauges were on record.</summary>
    public Gauge? GaugeOf(ReadingFact reading)
    {
        ArgumentNullException.ThrowIfNull(reading);
        return reading.GaugeId is { } id ? Shop.Gauges.Find(g => g.Id == id) : null;
    }

    /// <summary>Takes what the records of its head say into plans and judgement.</summary>
    public void Use(HeadLedger? head) => State = new(State.Facts, State.Part, State.Shop, head);

    /// <summary>Looks up what the shop's records say of the head that cuts it.</summary>
    /// <returns>Whether a measured cut on record has verified its dial.</returns>
    public async Task<bool> LoadHeadAsync(UncialDb db, CancellationToken cancel)
    {
        Use(await LatheQueries.LedgerAsync(db, Lathe, Kind, cancel));
        return await LatheQueries.DialIsConfirmedAsync(db, Lathe, Kind, cancel);
    }

    /// <summary>A query for parts with every fact of their surfaces, in a handful of round trips whatever their number.</summary>
    public static IQueryable<Part> WithFacts(IQueryable<Part> parts) =>
        parts
            .Include(p => p.Job)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal)
            .Include(p => p.Surfaces.OrderBy(s => s.Id))
                .ThenInclude(s => s.LimitEntries)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Findings)
                    .ThenInclude(f => f.Withdrawal)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Flag)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Plans)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Passes)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Confirmations)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Mounts)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUps)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUpDecisions)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.Stop)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Finishes)
            .AsSplitQuery();

    /// <summary>The same with the names of those who stated the facts, for the pages that tell them.</summary>
    public static IQueryable<Part> WithFactsAndNames(IQueryable<Part> parts) =>
        WithFacts(parts)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.By)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.SignedBy)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Certificate!.Prints)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal!.By)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.LimitEntries)
                    .ThenInclude(l => l.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.LimitEntries)
                    .ThenInclude(l => l.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
                    .ThenInclude(l => l.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal!.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.Withdrawal!.Signature!.SignedBy)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Settlements)
                    .ThenInclude(l => l.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Findings)
                    .ThenInclude(f => f.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Readings)
                    .ThenInclude(r => r.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Plans)
                    .ThenInclude(p => p.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Passes)
                    .ThenInclude(p => p.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Confirmations)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUpDecisions)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Mounts)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.SetUps)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.CutStarts)
                    .ThenInclude(c => c.Stop!.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Finishes)
                    .ThenInclude(c => c.By)
            .Include(p => p.Surfaces)
                .ThenInclude(s => s.Chatters)
                    .ThenInclude(c => c.By);
}
