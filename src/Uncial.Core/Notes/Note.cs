using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <summary>
/// Something that the operator should know about a result: one of a closed set, each with its own figures. Core gives the figures; the
/// wording is made at the edge.
/// </summary>
public abstract partial record Note
{
    private Note(Length? length = null, Length? second = null, decimal? degrees = null, string? subject = null) =>
        (Length, Second, Degrees, Subject) = (length, second, degrees, subject);

    /// <summary>Stable name in camelCase, such as <c>readHere</c>: by it the wording is found, and the note stored.</summary>
    public virtual string Code => char.ToLowerInvariant(GetType().Name[0]) + GetType().Name[1..];

    /// <summary>The length that its wording names first, if any.</summary>
    public Length? Length { get; }

    /// <summary>The length that its wording names second, if any.</summary>
    public Length? Second { get; }

    /// <summary>The place that its wording names, in degrees, or a share in percent, if any.</summary>
    public decimal? Degrees { get; }

    /// <summary>A name in its wording: a face, a technique or an adapter, if any.</summary>
    public string? Subject { get; }

    /// <summary>A note that an earlier version has stored and that is not made any more.</summary>
    /// <param name="Name">Its code.</param>
    public sealed record OfEarlierVersion(string Name) : Note
    {
        /// <inheritdoc/>
        public override string Code => Name;
    }
}
