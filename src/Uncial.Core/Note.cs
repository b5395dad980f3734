using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <summary>
/// Something that the operator should know about a result. Core gives the code and the figures; the wording is made at the edge.
/// </summary>
/// <param name="Code">Stable name in camelCase, such as <c>readHere</c>.</param>
/// <param name="Length">The length it speaks of, if any.</param>
/// <param name="Second">A second length it is compared with, if any.</param>
/// <param name="Degrees">The place it speaks of, in degrees, if any.</param>
/// <param name="Subject">A further name in camelCase: a face or a technique's key, if any.</param>
public sealed record Note(string Code, Length? Length = null, Length? Second = null, decimal? Degrees = null, string? Subject = null);
