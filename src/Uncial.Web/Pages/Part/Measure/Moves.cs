using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>One of the things that may be done with a measured part.</summary>
/// <param name="Move">What it is.</param>
/// <param name="Href">Where it leads to, or what it posts to.</param>
/// <param name="Key">The key that is printed on it.</param>
/// <param name="Text">What it says.</param>
public sealed record MoveLink(MeasuredMove Move, string Href, string Key, string Text)
{
    /// <summary>It is an action, not a place to go to.</summary>
    public bool IsAction => Move is MeasuredMove.Leave or MeasuredMove.Scuff;

    /// <summary>The link of a move.</summary>
    /// <param name="move">The move.</param>
    /// <param name="page">The page that it stands on.</param>
    /// <param name="read">Where a reading more is taken; only for that move.</param>
    /// <param name="speaksForCut">Its readings speak for a cut.</param>
    /// <param name="other">The other part of the axle; only for the move to it.</param>
    public static MoveLink Of(
        MeasuredMove move,
        PartPage page,
        (string Query, string Name)? read,
        bool speaksForCut,
        SurfaceRecord? other = null
    )
    {
        ArgumentNullException.ThrowIfNull(page);
        var (href, key, text) = move switch
        {
            MeasuredMove.ReadMore => (page.Href(Station.Measure) + read!.Value.Query, "r", Words.Say("measure.readAt", read.Value.Name)),
            MeasuredMove.MeasureOther => (
                RailView.Href(other!, page.Number, other!.Station),
                "p",
                Words.Say("measure.measureOther", Words.Of(other.Part, other.Surface).ToLowerInvariant())
            ),
            MeasuredMove.Mount when page.Record.Mounting.Decision is not null => (
                page.Href(Station.Plan),
                "o",
                Words.Say("measure.planThePasses")
            ),
            MeasuredMove.Mount => (
                page.Href(Station.Mount),
                "o",
                Words.Say(speaksForCut ? "measure.mountIt" : "measure.mountItAllTheSame")
            ),
            MeasuredMove.Shelve => (page.Href(Station.Release) + "?as=shelve", "h", Words.Say("measure.shelveIt")),
            MeasuredMove.Scrap => (page.Href(Station.Release) + "?as=scrap", "x", Words.Say("measure.scrapIt")),
            MeasuredMove.Leave => (page.Href(Station.Plan) + "?handler=Leave", "v", Words.Say("measure.leaveIt")),
            _ => (page.Href(Station.Plan) + "?handler=Scuff", "s", Words.Say("measure.scuffIt")),
        };
        return new(move, href, key, text);
    }
}

/// <summary>What may be done with a measured part, the best first.</summary>
/// <param name="Links">At least one.</param>
/// <param name="Turn">State of the surface when the page was made.</param>
public sealed record MovesView(IReadOnlyList<MoveLink> Links, int Turn);
