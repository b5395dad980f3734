namespace Uncial.Core.Vehicles;

/// <summary>Registration plates and fleet numbers: what is the same one however it is typed.</summary>
public static class Plate
{
    /// <summary>Longest plate or fleet number, in characters.</summary>
    public const int Longest = 16;

    /// <summary>As it is compared: without spaces, in capitals; empty for none.</summary>
    public static string Key(string? text) => string.Concat((text ?? "").Where(c => !char.IsWhiteSpace(c))).ToUpperInvariant();

    /// <summary>As it is shown: in capitals, one space where there were some.</summary>
    public static string Shown(string? text) =>
        string.Join(' ', (text ?? "").ToUpperInvariant().Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}

/// <summary>What a vehicle identification number says of itself.</summary>
public enum VinWord
{
    /// <summary>Seventeen characters and the check digit that goes with them.</summary>
    Fits,

    /// <summary>The check digit is another one: a typing error, or a maker who has none. A hint only.</summary>
    CheckDigitDiffers,

    /// <summary>Not seventeen characters.</summary>
    Length,

    /// <summary>It has a character that no such number has: I, O and Q, or anything but letters and digits.</summary>
    Character,
}

/// <summary>Vehicle identification numbers of seventeen characters.</summary>
/// <remarks>Source: ISO 3779 for the characters; the check digit of the ninth place by its weights, modulo 11.</remarks>
public static class Vin
{
    /// <summary>Characters in one.</summary>
    public const int Characters = 17;

    private const string Letters = "ABCDEFGHJKLMNPRSTUVWXYZ";
    private const string Values = "12345678123457923456789";
    private static readonly int[] Weights = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2];

    /// <summary>As it is stored: without spaces, in capitals.</summary>
    public static string Clean(string? text) => Plate.Key(text);

    /// <summary>Looks at a number; where it does not fit, at which character.</summary>
    /// <param name="text">The number as typed.</param>
    /// <returns>What it says, and the first wrong character's place from 1, or how many there are where the length is wrong.</returns>
    public static (VinWord Word, int At) Look(string text)
    {
        var clean = Clean(text);
        if (clean.Length != Characters)
            return (VinWord.Length, clean.Length);
        var sum = 0;
        for (var i = 0; i < Characters; i++)
        {
            if (Value(clean[i]) is not { } value)
                return (VinWord.Character, i + 1);
            sum += value * Weights[i];
        }
        var digit = sum % 11 == 10 ? 'X' : (char)('0' + sum % 11);
        return clean[8] == digit ? (VinWord.Fits, 0) : (VinWord.CheckDigitDiffers, 9);
    }

    private static int? Value(char c) =>
        char.IsAsciiDigit(c) ? c - '0'
        : Letters.IndexOf(c, StringComparison.Ordinal) is >= 0 and var at ? Values[at] - '0'
        : null;
}
