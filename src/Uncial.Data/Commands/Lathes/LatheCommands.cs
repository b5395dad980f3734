using Uncial.Core.Cutting;
using Uncial.Core.Mounting;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Data.Commands;

/// <summary>What is done to the lathes themselves, and what is kept with them.</summary>
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

    /// <summary>Keeps what was done to an insert.</summary>
    public static Task<Result<InsertEvent>> RecordInsertAsync(
        ShopAction action,
        ShopLathe lathe,
        InsertNow now,
        InsertEventKind kind,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        return action.RunAsync<InsertEvent>(
            Role.Operator,
            null,
            () => action.Db.InsertEvents.Add(RecordInsert(lathe, now, kind, action.Actor)).Entity,
            cancel
        );
    }

    /// <summary>The swarf bin was emptied.</summary>
    public static Task<Result<BinEmptied>> EmptyBinAsync(ShopAction action, SwarfBin bin, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        return action.RunAsync<BinEmptied>(
            Role.Operator,
            null,
            () =>
                action
                    .Db.BinsEmptied.Add(
                        new()
                        {
                            Grams = bin.Grams,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity,
            cancel
        );
    }

    /// <summary>Enters a lathe or changes it; the shop keeps at least one in use.</summary>
    /// <param name="action">The action.</param>
    /// <param name="shop">The shop, with its lathes.</param>
    /// <param name="lathe">The lathe; null for a new one.</param>
    /// <param name="profile">What it is like.</param>
    /// <param name="address">Host and port of its read-out, or null.</param>
    /// <param name="retired">It is not used any more.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<ShopLathe>> KeepAsync(
        ShopAction action,
        Shop shop,
        ShopLathe? lathe,
        Lathe profile,
        string? address,
        bool retired,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(shop);
        return action.RunAsync<ShopLathe>(
            Role.Owner,
            lathe?.Turn ?? 0,
            () =>
            {
                if (retired && shop.Lathes.TrueForAll(l => l.Id == lathe?.Id || l.RetiredAt is not null))
                    return new Refusal.LastInUse();
                if (lathe is null)
                    shop.Lathes.Add(lathe = new() { ShopId = shop.Id, Profile = profile });
                (lathe.Profile, lathe.Address) = (profile, Text.Trimmed(address));
                lathe.RetiredAt = retired ? lathe.RetiredAt ?? action.Actor.At : null;
                lathe.Turn++;
                return lathe;
            },
            cancel
        );
    }

    /// <summary>Enters an adapter of the board or changes it.</summary>
    /// <param name="action">The action.</param>
    /// <param name="shop">The shop, with its adapters.</param>
    /// <param name="adapter">The adapter; null for a new one.</param>
    /// <param name="spec">What it is like.</param>
    /// <param name="retired">It is not used any more.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<BoardAdapter>> KeepAdapterAsync(
        ShopAction action,
        Shop shop,
        BoardAdapter? adapter,
        Adapter spec,
        bool retired,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(spec);
        return action.RunAsync<BoardAdapter>(
            Role.Owner,
            adapter?.Turn ?? 0,
            () =>
            {
                if (shop.Board.Exists(a => a.Id != adapter?.Id && a.Spec.Name == spec.Name))
                    return new Refusal.Taken();
                if (adapter is null)
                    shop.Board.Add(adapter = new() { ShopId = shop.Id, Spec = spec });
                adapter.Spec = spec;
                adapter.RetiredAt = retired ? adapter.RetiredAt ?? action.Actor.At : null;
                adapter.Turn++;
                return adapter;
            },
            cancel
        );
    }
}
