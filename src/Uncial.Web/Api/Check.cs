using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Web.Text;

namespace Uncial.Web.Api;

/// <summary>Collects what is wrong with a request, keyed by the path of the field.</summary>
internal sealed class Check
{
    private readonly Dictionary<string, string[]> errors = [];

    public bool Failed => errors.Count > 0;

    public IResult Problem() =>
        Results.ValidationProblem(errors, title: "The request cannot be read.", type: "https://www.rfc-editor.org/rfc/rfc9457");

    public void Fail(string path, string key, params object?[] with) => errors.TryAdd(path, [Words.Say(key, with)]);

    /// <summary>A size: above 0 and up to 2000 mm.</summary>
    public Length Size(string path, decimal? mm) => SizeOrNull(path, mm) ?? Missing(path);

    public Length? SizeOrNull(string path, decimal? mm)
    {
        if (mm is <= 0 or > 2000)
            Fail(path, "api.above", "2000 mm");
        return Made(mm);
    }

    /// <summary>A depth or run-out: 0 to 50 mm.</summary>
    public Length Depth(string path, decimal? mm) => DepthOrNull(path, mm) ?? Missing(path);

    public Length? DepthOrNull(string path, decimal? mm) => Ranged(path, mm, 0, 50);

    /// <summary>An uncertainty: 0 to 5 mm.</summary>
    public Length Uncertainty(string path, decimal? mm) => Ranged(path, mm, 0, 5) ?? Missing(path);

    /// <summary>An angle in degrees; any turn, of which only the rest counts.</summary>
    public decimal Degrees(string path, decimal? degrees)
    {
        if (degrees is null)
            Missing(path);
        if (degrees is < -3600 or > 3600)
            Fail(path, "api.range", -3600, 3600);
        return degrees is >= -3600 and <= 3600 ? degrees.Value : 0;
    }

    public T OneOf<T>(string path, string? name, IReadOnlyDictionary<string, T> known)
    {
        if (name is not null && known.TryGetValue(name, out var value))
            return value;
        if (name is null)
            Missing(path);
        else
            Fail(path, "api.oneOf", string.Join(", ", known.Keys));
        return known.Values.First();
    }

    private Length? Ranged(string path, decimal? mm, decimal low, decimal high)
    {
        if (mm < low || mm > high)
            Fail(path, "api.range", low.ToString(CultureInfo.InvariantCulture), high.ToString(CultureInfo.InvariantCulture) + " mm");
        return Made(mm);
    }

    /// <summary>
    /// Digits beyond a billionth of a millimetre are no length of any gauge; cut there they cannot overflow a sum either.
    /// </summary>
    private static Length? Made(decimal? mm) =>
        mm is { } value && Math.Abs(value) <= 2000 ? Length.FromMillimetres(Math.Round(value, 12)) : null;

    public Length Missing(string path)
    {
        if (!errors.ContainsKey(path))
            Fail(path, "api.required");
        return Length.FromMillimetres(1);
    }
}
