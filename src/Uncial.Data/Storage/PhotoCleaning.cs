using System.Buffers.Binary;

namespace Uncial.Data.Storage;

/// <summary>
/// Takes out of a picture what says where and with what it was taken: EXIF but for the way it is turned, XMP, comments, times. The picture
/// itself stays as it is, byte for byte.
/// </summary>
public static class PhotoCleaning
{
    private static readonly string[] PngKept =
    [
        "IHDR",
        "PLTE",
        "IDAT",
        "IEND",
        "tRNS",
        "gAMA",
        "cHRM",
        "sRGB",
        "iCCP",
        "sBIT",
        "bKGD",
        "pHYs",
    ];

    /// <summary>The cleaned picture; null where its structure cannot be read.</summary>
    public static byte[]? Clean(byte[] picture)
    {
        ArgumentNullException.ThrowIfNull(picture);
        try
        {
            return Photo.TypeOf(picture) switch
            {
                "image/jpeg" => Jpeg(picture),
                "image/png" => Png(picture),
                "image/webp" => WebP(picture),
                _ => null,
            };
        }
        catch (Exception e) when (e is ArgumentOutOfRangeException or IndexOutOfRangeException)
        {
            return null;
        }
    }

    private static byte[]? Jpeg(byte[] picture)
    {
        using var cleaned = new MemoryStream(picture.Length);
        cleaned.Write([0xFF, 0xD8]);
        var head = cleaned.Position;
        byte[] turned = [];
        var at = 2;
        while (at + 4 <= picture.Length)
        {
            if (picture[at] != 0xFF)
                return null;
            var marker = picture[at + 1];
            if (marker == 0xFF)
            {
                at++;
                continue;
            }
            if (marker is 0xD8 or 0x01 or >= 0xD0 and <= 0xD7)
            {
                at += 2;
                continue;
            }
            var length = BinaryPrimitives.ReadUInt16BigEndian(picture.AsSpan(at + 2));
            var segment = picture.AsSpan(at, length + 2);
            if (marker == 0xE1 && segment[4..].StartsWith("Exif\0\0"u8))
                turned = Orientation(segment[10..]);
            // The picture's own tables, its colour profile and Adobe's colour transform stay; from the scan on everything does.
            if (
                marker is < 0xE0 or > 0xEF and not 0xFE
                || marker is 0xE0 or 0xEE
                || marker == 0xE2 && segment[4..].StartsWith("ICC_PROFILE\0"u8)
            )
                cleaned.Write(segment);
            at += length + 2;
            if (marker != 0xDA)
                continue;
            cleaned.Write(picture.AsSpan(at));
            if (turned.Length == 0)
                return cleaned.ToArray();
            var all = cleaned.ToArray();
            return [.. all[..(int)head], .. turned, .. all[(int)head..]];
        }
        return null;
    }

    /// <summary>A segment that says no more than which way the picture is turned; empty where it is not.</summary>
    private static byte[] Orientation(ReadOnlySpan<byte> tiff)
    {
        if (tiff.Length < 8)
            return [];
        var little = tiff[0] == (byte)'I';
        ushort U16(ReadOnlySpan<byte> s) => little ? BinaryPrimitives.ReadUInt16LittleEndian(s) : BinaryPrimitives.ReadUInt16BigEndian(s);
        var directory = little ? BinaryPrimitives.ReadInt32LittleEndian(tiff[4..]) : BinaryPrimitives.ReadInt32BigEndian(tiff[4..]);
        if (directory < 8 || directory + 2 > tiff.Length)
            return [];
        var entries = U16(tiff[directory..]);
        for (var i = 0; i < entries && directory + 14 + 12 * i <= tiff.Length; i++)
        {
            var entry = tiff[(directory + 2 + 12 * i)..];
            if (U16(entry) != 0x0112)
                continue;
            var turn = U16(entry[8..]);
            return turn is < 2 or > 8
                ? []
                : [0xFF, 0xE1, 0, 34, .. "Exif\0\0MM\0*"u8, 0, 0, 0, 8, 0, 1, 1, 0x12, 0, 3, 0, 0, 0, 1, 0, (byte)turn, 0, 0, 0, 0, 0, 0];
        }
        return [];
    }

    private static byte[]? Png(byte[] picture)
    {
        using var cleaned = new MemoryStream(picture.Length);
        cleaned.Write(picture.AsSpan(0, 8));
        for (var at = 8; at + 12 <= picture.Length; )
        {
            var length = BinaryPrimitives.ReadInt32BigEndian(picture.AsSpan(at));
            if (length < 0)
                return null;
            var chunk = picture.AsSpan(at, length + 12);
            var name = System.Text.Encoding.ASCII.GetString(chunk.Slice(4, 4));
            if (PngKept.Contains(name))
                cleaned.Write(chunk);
            at += length + 12;
            if (name == "IEND")
                return cleaned.ToArray();
        }
        return null;
    }

    private static byte[]? WebP(byte[] picture)
    {
        using var cleaned = new MemoryStream(picture.Length);
        cleaned.Write(picture.AsSpan(0, 12));
        for (var at = 12; at + 8 <= picture.Length; )
        {
            var length = BinaryPrimitives.ReadInt32LittleEndian(picture.AsSpan(at + 4));
            if (length < 0)
                return null;
            var chunk = picture.AsSpan(at, Math.Min(8 + length + length % 2, picture.Length - at)).ToArray();
            if (chunk.Length < 8 + length)
                return null;
            // The head says which of the parts that are left out there are.
            if (chunk.AsSpan().StartsWith("VP8X"u8))
                chunk[8] &= 0b1111_0011;
            if (!chunk.AsSpan().StartsWith("EXIF"u8) && !chunk.AsSpan().StartsWith("XMP "u8))
                cleaned.Write(chunk);
            at += 8 + length + length % 2;
        }
        var all = cleaned.ToArray();
        BinaryPrimitives.WriteInt32LittleEndian(all.AsSpan(4), all.Length - 8);
        return all;
    }
}
