using Uncial.Core.Cutting;
using Uncial.Core.Parts;

namespace Uncial.Data;

/// <summary>A work surface as it is stored, with the state that Core works out from it. What is added later needs a new record.</summary>
public sealed class SurfaceRecord
{
    /// <summary>Reads a surface whose facts are loaded (see <see cref="PartQueries"/>).</summary>
    public SurfaceRecord(WorkSurface surface, Part part, Shop shop)
        : this(surface, part, shop, (shop ?? throw new ArgumentNullException(nameof(shop))).Workshop) { }

    /// <summary>The same for many surfaces, for which what Core takes of the shop is put together once.</summary>
    public SurfaceRecord(WorkSurface surface, Part part, Shop shop, Workshop workshop)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(shop);
        (Surface, Part, Shop) = (surface, part, shop);
        State = new(surface.Facts, part.Facts, workshop);
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
}
