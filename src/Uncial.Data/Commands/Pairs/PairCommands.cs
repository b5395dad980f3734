using Uncial.Core.Parts;

namespace Uncial.Data.Commands;

/// <summary>What is done to both parts of an axle at once: both or neither.</summary>
public static class PairCommands
{
    /// <summary>
    /// Confirms both; each has to be within its limit, with nothing that speaks against it. One that is confirmed already stays as it was
    /// confirmed, and by whom.
    /// </summary>
    /// <param name="first">One of them.</param>
    /// <param name="second">The other, of the same context.</param>
    /// <param name="readingsAreFit">Both are off the lathe, clean, at room temperature.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Refusal?> ConfirmAsync(PartAction first, PartAction second, bool readingsAreFit, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(first);
        ArgumentNullException.ThrowIfNull(second);
        return BothAsync(
            first,
            second,
            async (action, other) =>
            {
                var pair = PairOrder.Compare(action.Record.State, other.Record.State, action.Record.Shop.Rules);
                return !PairOrder.IsReady(action.Record.State, pair) ? new Refusal.NotNow()
                    : action.Record.Confirming.Holding is not null ? null
                    : (await ConfirmCommands.ConfirmAsync(action, readingsAreFit, pair, null, cancel)).Refusal;
            },
            cancel
        );
    }

    /// <summary>Releases both; neither may need a lead.</summary>
    /// <param name="first">One of them.</param>
    /// <param name="second">The other, of the same context.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Refusal?> ReleaseAsync(PartAction first, PartAction second, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(first);
        ArgumentNullException.ThrowIfNull(second);
        return BothAsync(
            first,
            second,
            async (action, _) => (await ReleaseCommands.ReleaseAsync(action, OutcomeKind.Released, null, null, cancel)).Refusal,
            cancel
        );
    }

    private static async Task<Refusal?> BothAsync(
        PartAction first,
        PartAction second,
        Func<PartAction, PartAction, Task<Refusal?>> act,
        CancellationToken cancel
    )
    {
        // Left and right of one axle, and no others.
        var (a, b) = (first.Record, second.Record);
        if (a.Part.JobId != b.Part.JobId || a.Part.Corner.Opposite() != b.Part.Corner || a.Kind != b.Kind)
            return new Refusal.NotNow();
        // The lower part first, whichever is asked for: two people at one pair do not wait for each other.
        var (one, two) = first.Record.Part.Id <= second.Record.Part.Id ? (first, second) : (second, first);
        await using var transaction = await first.Db.Database.BeginTransactionAsync(cancel);
        if (await act(one, two) is { } notOne)
            return notOne;
        if (await act(two, one) is { } notTwo)
            return notTwo;
        await transaction.CommitAsync(cancel);
        return null;
    }
}
