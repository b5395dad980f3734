namespace Uncial.Core.Vehicles;

/// <summary>Side of an axle, seen in the direction of travel.</summary>
public enum AxleSide
{
    /// <summary>Left.</summary>
    Left,

    /// <summary>Right.</summary>
    Right,

    /// <summary>In the middle, or neither.</summary>
    Middle,
}

/// <summary>A place on a vehicle that has one brake.</summary>
/// <param name="Code">As it is stored, such as A2L; unique in a layout.</param>
/// <param name="Name">As it is shown, such as "A2 L", FL, or a name of its own.</param>
/// <param name="Pair">What the two sides of an axle have in common.</param>
/// <param name="Axle">Axle, 1 … 5 from the front; 0 where the position has a name alone.</param>
/// <param name="Side">Which side.</param>
public sealed record Position(string Code, string Name, string Pair, int Axle, AxleSide Side);
