using Uncial.Core.Lengths;

namespace Uncial.Core.Workflow;

/// <summary>A place that is to be read.</summary>
/// <param name="Degrees">Clock position of a rotor; axis of a drum, below 180 or its opposite end.</param>
/// <param name="Station">Depth in a drum, or how far in from the outer edge of a rotor; null for the usual one.</param>
public readonly record struct ReadingPlace(decimal Degrees, Length? Station);
