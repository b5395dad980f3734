using System.ComponentModel.DataAnnotations;

namespace Uncial.Data.Model;

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
