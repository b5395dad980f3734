namespace Uncial.Core.Parts;

/// <summary>The stations of a part's workflow, in order.</summary>
public enum Station
{
    /// <summary>Taken in, limits looked up.</summary>
    Receive,

    /// <summary>Readings before cutting.</summary>
    Measure,

    /// <summary>On the lathe, and whether it runs true there.</summary>
    Mount,

    /// <summary>Passes chosen.</summary>
    Plan,

    /// <summary>On the lathe.</summary>
    Cut,

    /// <summary>Readings after cutting, judged.</summary>
    Confirm,

    /// <summary>Released, shelved or scrapped.</summary>
    Release,

    /// <summary>Out of the workflow.</summary>
    Done,
}

/// <summary>The facts on record about one work surface, from which its station follows.</summary>
/// <param name="HasLimits">A discard or machine-to limit is known.</param>
/// <param name="PlacesAsked">Places, or axes times depths, that are to be read.</param>
/// <param name="PlacesRead">Of these, how many have a reading that stands, taken since the last pass.</param>
/// <param name="Mounted">It is on the lathe, and somebody said that it may be cut as it is mounted.</param>
/// <param name="PassesPlanned">Passes of the newest plan; null where there is none.</param>
/// <param name="PassesDone">Passes of the newest plan that are done.</param>
/// <param name="Finished">What finishing asks for was done, or nothing was cut.</param>
/// <param name="Confirmed">A confirmation that allows a release stands, made after the last pass.</param>
/// <param name="Closed">The part was released, shelved or scrapped.</param>
public readonly record struct Progress(
    bool HasLimits,
    int PlacesAsked,
    int PlacesRead,
    bool Mounted,
    int? PassesPlanned,
    int PassesDone,
    bool Finished,
    bool Confirmed,
    bool Closed
)
{
    /// <summary>The station at which the surface waits. It follows from the facts and is stored nowhere.</summary>
    public Station Station
    {
        get
        {
            if (Closed)
                return Station.Done;
            if (!HasLimits)
                return Station.Receive;
            if (PassesPlanned is null)
                return PlacesRead < PlacesAsked ? Station.Measure
                    : Mounted ? Station.Plan
                    : Station.Mount;
            if (PassesDone < PassesPlanned || !Finished)
                return Station.Cut;
            return Confirmed ? Station.Release : Station.Confirm;
        }
    }
}
