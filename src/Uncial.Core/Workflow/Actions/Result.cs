namespace Uncial.Core.Workflow;

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

    /// <summary>It was done.</summary>
    public static Result<T> Done(T value) => new(value, null);

    /// <summary>It was done.</summary>
    public static implicit operator Result<T>(T value) => new(value, null);

    /// <summary>It was refused.</summary>
    public static implicit operator Result<T>(Refusal refusal) => new(default, refusal);
}
