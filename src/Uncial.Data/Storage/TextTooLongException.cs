namespace Uncial.Data.Storage;

/// <summary>
/// A text is longer than its column takes. It is noticed before the database is asked, so that no statement fails for it.
/// </summary>
public sealed class TextTooLongException : Exception
{
    public TextTooLongException() { }

    public TextTooLongException(string message)
        : base(message) { }

    public TextTooLongException(string message, Exception inner)
        : base(message, inner) { }

    internal TextTooLongException(string entity, string property, int most)
        : base(FormattableString.Invariant($"{property} of {entity}: at most {most} letters.")) { }
}
