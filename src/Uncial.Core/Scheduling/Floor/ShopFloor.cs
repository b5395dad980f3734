using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Times;
using Uncial.Core.Workflow;

namespace Uncial.Core.Scheduling;

/// <summary>A work surface that is in the shop.</summary>
/// <param name="Id">Its number.</param>
/// <param name="State">How it stands.</param>
public sealed record SurfaceInShop(int Id, SurfaceState State);

/// <summary>A part that is in the shop, or left it today.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Corner">Where it belongs.</param>
/// <param name="Surfaces">Its work surfaces.</param>
public sealed record PartInShop(int Id, Corner Corner, IReadOnlyList<SurfaceInShop> Surfaces);

/// <summary>A job of which something is in the shop.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Promised">When it shall be ready; null where nothing was promised.</param>
/// <param name="IsUrgent">Somebody has marked it urgent.</param>
/// <param name="Parts">Its parts.</param>
public sealed record JobInShop(int Id, DateTimeOffset? Promised, bool IsUrgent, IReadOnlyList<PartInShop> Parts);

/// <summary>A lathe in use.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Profile">What it is.</param>
/// <param name="SetUp">What its last part was held by; null where nothing was on it yet.</param>
/// <param name="NewestMount">Key of the newest mounting on it; null where there is none.</param>
/// <param name="Out">Since when it is out of order, and when it is expected back; null where it is in order.</param>
public sealed record LatheInShop(int Id, Lathe Profile, LatheSetUp? SetUp, long? NewestMount, LatheOut? Out = null)
{
    /// <summary>
    /// It cannot be used at a moment, and nobody knows when it can: nothing was said, or that time is over and it is not back.
    /// </summary>
    public bool IsOutForGood(DateTimeOffset now) => IsOut(now) && !(Out!.BackAt > now);

    /// <summary>It cannot be used at a moment.</summary>
    public bool IsOut(DateTimeOffset now) => Out is { } o && o.Since <= now;

    /// <summary>When it is out, as far as is known at a moment; null where it is in order.</summary>
    public TimeWindow? Outage(DateTimeOffset now) =>
        Out is { } o ? new(o.Since, IsOutForGood(now) ? DateTimeOffset.MaxValue : o.BackAt ?? DateTimeOffset.MaxValue) : null;
}

/// <summary>A lathe was marked out of order.</summary>
/// <param name="Since">Since when.</param>
/// <param name="BackAt">When it is expected back; null where nobody knows. It stays out until somebody says that it is in order.</param>
public sealed record LatheOut(DateTimeOffset Since, DateTimeOffset? BackAt);

/// <summary>Everything in the shop that a day's plan rests on, at a moment.</summary>
public sealed record ShopFloor
{
    /// <summary>The moment.</summary>
    public required DateTimeOffset Now { get; init; }

    /// <summary>The shop's clock.</summary>
    public required ShopTime Time { get; init; }

    /// <summary>The jobs.</summary>
    public required IReadOnlyList<JobInShop> Jobs { get; init; }

    /// <summary>The lathes in use.</summary>
    public required IReadOnlyList<LatheInShop> Lathes { get; init; }

    /// <summary>The adapters in use.</summary>
    public IReadOnlyList<Adapter> Board { get; init; } = [];

    /// <summary>Numbers of those who may work.</summary>
    public required IReadOnlyList<int> Operators { get; init; }

    /// <summary>Hours and times that the shop has settled.</summary>
    public DaySettings Settings { get; init; } = new();

    /// <summary>Single days with other hours.</summary>
    public IReadOnlyCollection<DayHours> SingleDays { get; init; } = [];

    /// <summary>How long steps take.</summary>
    public required WorkTimes Times { get; init; }

    /// <summary>What people have decided, by work surface.</summary>
    public IReadOnlyDictionary<int, Pin> Pins { get; init; } = new Dictionary<int, Pin>();

    /// <summary>The board that people saw last.</summary>
    public IReadOnlyList<SeenPlace> Seen { get; init; } = [];
}
