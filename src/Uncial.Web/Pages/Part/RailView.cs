using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Web.Pages;

/// <summary>One station on the rail.</summary>
public sealed record RailStop(Station Station, string Href, bool IsDone, bool IsCurrent);

/// <summary>The workflow of the part that the page is about.</summary>
public sealed record RailView(IReadOnlyList<RailStop> Stops)
{
    private static readonly Station[] Journey =
    [
        Station.Receive,
        Station.Measure,
        Station.Mount,
        Station.Plan,
        Station.Cut,
        Station.Confirm,
        Station.Release,
    ];

    /// <summary>In practice what becomes of a part is decided on a page of its own.</summary>
    private static readonly Station[] Practised = [.. Journey.Except([Station.Release])];

    /// <summary>The rail of a surface: what lies behind it is done, the page's own station is current.</summary>
    public static RailView Of(SurfaceRecord record, int number, Station current)
    {
        ArgumentNullException.ThrowIfNull(record);
        if (Uncial.Data.Practice.Attempt.IdOf(record.Part.Tag) is not null)
            return new([.. Practised.Select(s => new RailStop(s, Href(record, number, s), s < record.Station, s == current))]);
        return new([.. Journey.Select(s => new RailStop(s, Href(record, number, s), s < record.Station, s == current))]);
    }

    /// <summary>Address of a surface at a station.</summary>
    public static string Href(SurfaceRecord record, int number, Station station)
    {
        ArgumentNullException.ThrowIfNull(record);
        return station switch
        {
            Station.Receive => $"/receive/{record.Part.Job!.Number}/{record.Part.Tag}",
            Station.Release => $"/release/{record.Part.Tag}",
            Station.Done => $"/part/{record.Part.Tag}",
            _ => $"/{station.ToString().ToLowerInvariant()}/{record.Part.Tag}/{number}",
        };
    }
}
