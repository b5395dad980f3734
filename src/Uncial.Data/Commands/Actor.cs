namespace Uncial.Data.Commands;

/// <summary>Who states something, and when.</summary>
/// <param name="Id">Key of the person.</param>
/// <param name="At">When, by the server's clock.</param>
public readonly record struct Actor(int Id, DateTimeOffset At);
