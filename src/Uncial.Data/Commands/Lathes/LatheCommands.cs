using Uncial.Core.Release;

namespace Uncial.Data.Commands;

/// <summary>What is done to the lathes themselves.</summary>
public static class LatheCommands
{
    /// <summary>Something done to an insert.</summary>
    public static InsertEvent RecordInsert(ShopLathe lathe, InsertNow now, InsertEventKind kind, Actor actor)
    {
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(now);
        var edge = kind switch
        {
            InsertEventKind.Replaced => 1,
            InsertEventKind.Turned => (now.Edge ?? 1) % lathe.Profile.EdgesPerInsert + 1,
            _ => now.Edge ?? 1,
        };
        return new()
        {
            LatheId = lathe.Id,
            Holder = now.Holder,
            Kind = kind,
            Edge = edge,
            At = actor.At,
            ById = actor.Id,
        };
    }
}
