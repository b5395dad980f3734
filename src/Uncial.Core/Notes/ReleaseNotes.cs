using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <content>Notes of release.</content>
public abstract partial record Note
{
    /// <summary>Nothing is read since the last cut.</summary>
    public sealed record NoReadings : Note;

    /// <summary>The points read are too far apart, or form a square.</summary>
    public sealed record PlacesTooFarApart : Note;

    /// <summary>What was read at a station does not fit the shape elsewhere.</summary>
    public sealed record ReadAround(Length? Station) : Note(length: Station);

    /// <summary>One depth of a drum says nothing of the others.</summary>
    public sealed record ReadMoreDepths : Note;

    /// <summary>The worst point decides and was read once.</summary>
    public sealed record ReadTwice(Length Size, Length? Station, decimal At) : Note(length: Size, second: Station, degrees: At);

    /// <summary>Two readings of one point cannot be of one size.</summary>
    public sealed record RepeatsDisagree(Length Least, Length Greatest) : Note(length: Least, second: Greatest);

    /// <summary>Without an uncertainty nothing is released.</summary>
    public sealed record NoUncertainty : Note;

    /// <summary>The part was on the lathe, dirty or warm, or the gauge failed.</summary>
    public sealed record ReadingsNotFit : Note;

    /// <summary>The margin is less than the uncertainty.</summary>
    public sealed record TooClose(Length Margin, Length Uncertainty) : Note(length: Margin, second: Uncertainty);

    /// <summary>What was not read may be worse than what is over.</summary>
    public sealed record Spread(Length Allowance, Length Over) : Note(length: Allowance, second: Over);

    /// <summary>Grooves and low lands that stay reach below the readings.</summary>
    public sealed record Groove(Length Reach, Length Left) : Note(length: Reach, second: Left);

    /// <summary>Not turned bright all over: what was not read may lie lower.</summary>
    public sealed record Unturned(Length Left, Length Lower) : Note(length: Left, second: Lower);

    /// <summary>The fit comes to its worst between measuring points.</summary>
    public sealed record ReadHere(Length Worst, decimal At) : Note(length: Worst, degrees: At);

    /// <summary>Said to be none by eye, and so near the limit a gauge is laid on.</summary>
    public sealed record LookAgain(Length Within, string What) : Note(length: Within, subject: What);

    /// <summary>Dial and metal disagree beyond what the readings explain.</summary>
    public sealed record DialDrifts(Length ByDial, Length BySize) : Note(length: ByDial, second: BySize);
}
