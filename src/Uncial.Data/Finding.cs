using System.ComponentModel.DataAnnotations;
using Uncial.Core.Lengths;
using Uncial.Core.Looking;

namespace Uncial.Data;

/// <summary>Which side of a work surface a finding is on.</summary>
public enum Side
{
    Whole,
    Outer,
    Inner,
}

/// <summary>What somebody found on a surface by eye and hand.</summary>
public class Finding : PartFact
{
    public int SurfaceId { get; set; }
    public FindingKind Kind { get; set; }
    public Side Side { get; set; }

    /// <summary>Twelfths where it is, bit 0 at 12 o'clock; 0 where it is all round or nobody said.</summary>
    public int Sectors { get; set; }

    /// <summary>Depth of a groove, height of a ridge.</summary>
    public Length? Depth { get; set; }

    [MaxLength(200)]
    public string? Note { get; set; }
    public int? PhotoId { get; set; }
    public FindingWithdrawal? Withdrawal { get; set; }
}

/// <summary>A finding that turned out to be none, with the reason.</summary>
public class FindingWithdrawal : PartFact
{
    public long FindingId { get; set; }

    [MaxLength(200)]
    public required string Reason { get; set; }

    /// <summary>The lead's signature where the finding ended the part's way; otherwise null.</summary>
    public long? SignatureId { get; set; }
    public Signature? Signature { get; set; }
}

/// <summary>A photo of a part, kept in the database.</summary>
public class Photo
{
    /// <summary>Largest photo, in bytes.</summary>
    public const int LargestBytes = 4 * 1024 * 1024;

    public int Id { get; set; }

    [MaxLength(20)]
    public required string ContentType { get; set; }
    public required byte[] Bytes { get; set; }
    public DateTimeOffset At { get; set; }
    public int ById { get; set; }

    /// <summary>What kind of picture some bytes are, by their beginning; null where they are none that is kept.</summary>
    public static string? TypeOf(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : bytes.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G', 13, 10, 26, 10]) ? "image/png"
        : bytes.Length > 12 && bytes.StartsWith("RIFF"u8) && bytes[8..].StartsWith("WEBP"u8) ? "image/webp"
        : null;
}
