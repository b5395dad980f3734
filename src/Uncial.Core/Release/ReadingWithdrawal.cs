using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Release;

/// <summary>What it takes to withdraw a reading.</summary>
/// <param name="Decided">It decided: past machine-to, or the worst of its round and within its uncertainty of machine-to.</param>
/// <param name="SecondReading">Its place must be read again first, by the same or a finer gauge.</param>
/// <param name="Signature">A lead's signature: it is beyond discard, or it decided before a cut, where its place cannot be read
/// again.</param>
/// <remarks>A reason is always taken. The database keeps the same rule.</remarks>
public readonly record struct ReadingWithdrawal(bool Decided, bool SecondReading, bool Signature)
{
    /// <summary>Works it out.</summary>
    /// <param name="size">The reading, thickness or diameter.</param>
    /// <param name="uncertainty">Its expanded uncertainty, 0 or more.</param>
    /// <param name="limits">The limits that hold; null where none do: then nothing was decided.</param>
    /// <param name="isWorst">No standing reading of its round is worse.</param>
    /// <param name="isOfNow">Nothing was cut since.</param>
    /// <param name="isReadAgain">Its place was read again afterwards by the same or a finer gauge, and that reading stands.</param>
    public static ReadingWithdrawal Of(Length size, Length uncertainty, Limits? limits, bool isWorst, bool isOfNow, bool isReadAgain)
    {
        if (limits is null)
            return default;
        var toMachineTo = Limits.Margin(limits.Kind, size, limits.MachineTo);
        var beyond = Limits.Margin(limits.Kind, size, limits.Discard) < Length.Zero;
        var decided = beyond || toMachineTo < Length.Zero || (isWorst && toMachineTo < uncertainty);
        return new(decided, decided && isOfNow && !isReadAgain, beyond || (decided && !isOfNow));
    }
}
