namespace Uncial.Core.Workflow;

/// <summary>Makes results of types that do not become one by themselves.</summary>
public static class Result
{
    /// <summary>It was done.</summary>
    public static Result<T> Done<T>(T value) => Result<T>.Of(value);
}

/// <summary>What came of an action: its result, or why it was refused.</summary>
/// <typeparam name="T">Type of the result.</typeparam>
public readonly record struct Result<T>
{
    private readonly T? value;

    private Result(T? value, Refusal? refusal) => (this.value, Refusal) = (value, refusal);

    /// <summary>Why it was refused; null where it was done.</summary>
    public Refusal? Refusal { get; }

    /// <summary>The result.</summary>
    /// <exception cref="InvalidOperationException">It was refused.</exception>
    public T Value => Refusal is null ? value! : throw new InvalidOperationException($"The action was refused: {Refusal}.");

    internal static Result<T> Of(T value) => new(value, null);

    /// <summary>It was done.</summary>
    public static implicit operator Result<T>(T value) => new(value, null);

    /// <summary>It was refused.</summary>
    public static implicit operator Result<T>(Refusal refusal) => new(default, refusal);
}
