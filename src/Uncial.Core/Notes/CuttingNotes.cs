using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <content>Notes of cutting.</content>
public abstract partial record Note
{
    /// <summary>A side needs more than was planned.</summary>
    public sealed record NeedsMore(Length By, Length Need, string Face) : Note(length: By, second: Need, subject: Face);

    /// <summary>A side needs less than was planned.</summary>
    public sealed record NeedsLess(Length By, Length Need, string Face) : Note(length: By, second: Need, subject: Face);

    /// <summary>Too little is touched to tell how much is left.</summary>
    public sealed record TooLittleTouched(string Face) : Note(subject: Face);

    /// <summary>Dark at a depth that should have cleaned it.</summary>
    public sealed record DarkBeyondNeed(Length Need, Length Depth, string Face) : Note(length: Need, second: Depth, subject: Face);

    /// <summary>The deepest groove may be deeper than it was read.</summary>
    public sealed record GrooveAgain(string Face) : Note(subject: Face);

    /// <summary>What is clean speaks of another run-out than was measured.</summary>
    public sealed record CoverageDisagrees(Length Measured, Length Seen, string Face) : Note(length: Measured, second: Seen, subject: Face);

    /// <summary>Measured on a bright spot: the plan counts from there.</summary>
    public sealed record TouchFromSize(Length Size) : Note(length: Size);

    /// <summary>Dial and metal differ by about a factor of two.</summary>
    public sealed record DialFactorOfTwo(Length ByDial, Length BySize) : Note(length: ByDial, second: BySize);

    /// <summary>Dial and metal differ: the zero or the dial is wrong.</summary>
    public sealed record DialOrZeroWrong(Length ByDial, Length BySize) : Note(length: ByDial, second: BySize);
}
