using System.Diagnostics.CodeAnalysis;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Web.Text;

namespace Uncial.Web.Api;

/// <summary>Figures as they go out: exact ones exactly, those from trigonometry rounded half to even at 0.0001 mm.</summary>
internal static class Figures
{
    /// <summary>An exact length, without idle zeros; a quotient that does not end is cut at 1e-10 mm.</summary>
    public static decimal Exact(Length length) =>
        Math.Round(length.Millimetres, 10, MidpointRounding.ToEven) / 1.0000000000000000000000000000m;

    [return: NotNullIfNotNull(nameof(length))]
    public static decimal? Exact(Length? length) => length is { } l ? Exact(l) : null;

    public static decimal Computed(Length length) =>
        Math.Round(length.Millimetres, 4, MidpointRounding.ToEven) / 1.0000000000000000000000000000m;

    [return: NotNullIfNotNull(nameof(length))]
    public static decimal? Computed(Length? length, bool trigonometry = true) =>
        length is { } l
            ? trigonometry
                ? Computed(l)
                : Exact(l)
            : null;

    public static decimal? Degrees(ClockAngle? angle) => angle is { } a ? Math.Round(a.Degrees, 4) / 1.0000000000000000000000000000m : null;

    /// <summary>The name of an enum's value in camelCase.</summary>
    public static string Name<T>(T value)
        where T : struct, Enum
    {
        var name = value.ToString();
        return char.ToLowerInvariant(name[0]) + name[1..];
    }
}

/// <summary>Plans as they go out.</summary>
internal static class PlanBodies
{
    public static PlanPassesResponse Of(PassPlan plan, PartKind kind) =>
        new(
            plan.Recommended,
            plan.Shortfall is { } s
                ? new(
                    Figures.Exact(s.Needed),
                    Figures.Exact(s.Available),
                    Words.Say(
                        "shortfall." + s.Cause,
                        Words.With(s.Needed, LengthUnit.Millimetre),
                        Words.With(s.Available, LengthUnit.Millimetre)
                    )
                )
                : null,
            [
                .. plan.Options.Select(o => new OptionBody(
                    o.Key,
                    o.Feasible,
                    o.Refusal is { } r ? Figures.Name(r) : null,
                    Figures.Name(o.Start),
                    Figures.Exact(o.Metal),
                    Figures.Exact(o.Waste),
                    [.. o.Passes.Select(p => PassOf(p, kind))],
                    NoteBody.All(o.Notes)
                )),
            ]
        );

    private static PassBody PassOf(PlannedPass pass, PartKind kind)
    {
        SidesBody<T> Sides<TFrom, T>(IReadOnlyList<TFrom> from, Func<TFrom, T> of)
            where T : struct => kind == PartKind.Drum ? new(null, null, of(from[0])) : new(of(from[0]), of(from[1]), null);
        return new(
            Figures.Name(pass.Kind),
            Sides(pass.Divisions, d => d),
            Sides(pass.Depth, Figures.Exact),
            Figures.Exact(pass.SizeAfter),
            Figures.Exact(pass.BoundAfter),
            pass.MeasureFirst,
            Sides(pass.CleanShare, c => Math.Round((decimal)c, 4))
        );
    }
}
