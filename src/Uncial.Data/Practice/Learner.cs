using System.ComponentModel.DataAnnotations;

namespace Uncial.Data.Practice;

/// <summary>
/// Somebody who practises: a guest, a trainee of a class, or somebody who works here. A principal of its own with no right in the shop.
/// </summary>
public class Learner
{
    public int Id { get; set; }

    /// <summary>Name as it is shown and printed; null for a guest.</summary>
    [MaxLength(80)]
    public string? Name { get; set; }

    /// <summary>The person of the shop who practises under the own name; null for a guest.</summary>
    public int? OperatorId { get; set; }

    /// <summary>SHA-256 of the token in a guest's cookie; null for who signs in with a PIN.</summary>
    public byte[]? TokenHash { get; set; }

    [MaxLength(64)]
    public string? Address { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>When a guest and everything of the guest's is removed; null for who works here.</summary>
    public DateTimeOffset? ExpiresAt { get; set; }

    /// <summary>The class of a trainee; null for everybody else. Given by the class's instructor alone.</summary>
    public int? ClassId { get; set; }

    /// <summary>
    /// What a trainee types to come in, on any tablet; null for everybody else. It opens this trainee's practice and nothing else, so the
    /// instructor may read it again.
    /// </summary>
    [MaxLength(12)]
    public string? Code { get; set; }

    public PracticeClass? Class { get; set; }

    /// <summary>Somebody in a class.</summary>
    public bool IsTrainee => ClassId is not null;

    public bool IsGuest => OperatorId is null && ClassId is null;
}
