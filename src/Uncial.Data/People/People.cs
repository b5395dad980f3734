using System.ComponentModel.DataAnnotations;

namespace Uncial.Data;

/// <summary>Somebody who works here and signs in with a PIN. Never deleted: facts keep their names.</summary>
public class Operator
{
    public int Id { get; set; }

    /// <summary>Short name that the program uses; never shown.</summary>
    [MaxLength(40)]
    public required string UserName { get; set; }

    /// <summary>Name as it is shown and printed.</summary>
    [MaxLength(80)]
    public required string DisplayName { get; set; }

    /// <summary>One of <see cref="Roles"/>.</summary>
    [MaxLength(20)]
    public string Role { get; set; } = Roles.Operator;

    /// <summary>When this person was disabled; null while they may sign in.</summary>
    public DateTimeOffset? DisabledAt { get; set; }

    /// <summary>Lead or owner: may sign for what an operator may not decide.</summary>
    public bool IsLead => Role is Roles.Lead or Roles.Owner;
}

/// <summary>The roles, from the least to the most that they may do.</summary>
public static class Roles
{
    public const string Operator = "operator";
    public const string Lead = "lead";
    public const string Owner = "owner";
    public const string LeadOrOwner = Lead + "," + Owner;
}

/// <summary>The hash of a PIN. Only the database's own functions read it; the application's login may not.</summary>
public class Pin
{
    public int OperatorId { get; set; }

    /// <summary>bcrypt, as the database's <c>crypt</c> writes it; null while only <see cref="Earlier"/> is known.</summary>
    [MaxLength(100)]
    public string? Hash { get; set; }

    /// <summary>A hash of the first version (PBKDF2), replaced at the first sign-in; null afterwards.</summary>
    public byte[]? Earlier { get; set; }

    public DateTimeOffset SetAt { get; set; }
}

/// <summary>A screen that a lead has enrolled: only such a screen signs people in or takes a signature.</summary>
public class EnrolledScreen
{
    public int Id { get; set; }

    [MaxLength(60)]
    public required string Name { get; set; }

    /// <summary>SHA-256 of the token in its cookie.</summary>
    public required byte[] TokenHash { get; set; }

    public DateTimeOffset EnrolledAt { get; set; }

    /// <summary>The lead who enrolled it; null for the first screen of a shop and for the demo.</summary>
    public int? EnrolledById { get; set; }

    [MaxLength(64)]
    public string? Address { get; set; }
    public DateTimeOffset? RetiredAt { get; set; }
}

/// <summary>Somebody is signed in at a screen. Ends at sign-out, when the person is disabled, and when the PIN or the role changes.</summary>
public class Session
{
    public long Id { get; set; }
    public int OperatorId { get; set; }
    public int ScreenId { get; set; }

    /// <summary>SHA-256 of the token in the cookie.</summary>
    public required byte[] TokenHash { get; set; }

    public DateTimeOffset StartedAt { get; set; }
    public DateTimeOffset SeenAt { get; set; }
    public DateTimeOffset? EndedAt { get; set; }

    [MaxLength(40)]
    public string? EndedBy { get; set; }
}

/// <summary>A PIN that somebody typed. It is counted before it is judged, so that no way of asking escapes the count.</summary>
public class PinTry
{
    public long Id { get; set; }
    public int OperatorId { get; set; }

    /// <summary>The enrolled screen; null for a screen that is not enrolled.</summary>
    public int? ScreenId { get; set; }

    [MaxLength(64)]
    public string? Address { get; set; }

    /// <summary>SHA-256 over a nonce and the PIN: a try is good for this one PIN only.</summary>
    public required byte[] Commitment { get; set; }

    public DateTimeOffset At { get; set; }

    /// <summary>The transaction that counted it; it is judged in a later one.</summary>
    [MaxLength(20)]
    public required string Transaction { get; set; }

    /// <summary>Whether it was the PIN; null while it is not judged.</summary>
    public bool? Right { get; set; }

    [MaxLength(40)]
    public string? Purpose { get; set; }
}

/// <summary>How many misses stand against a person at a screen, or against an address of screens that are not enrolled.</summary>
public class PinDelay
{
    /// <summary>The person, or 0 for all tries from an address.</summary>
    public int OperatorId { get; set; }

    /// <summary><c>screen 3</c> or <c>address 10.0.0.5</c>.</summary>
    [MaxLength(80)]
    public required string Place { get; set; }

    public int Misses { get; set; }
    public DateTimeOffset LastAt { get; set; }
}

/// <summary>What was done to a person's account.</summary>
public enum PeopleAct
{
    Added,
    Renamed,
    RoleChanged,
    PinChanged,
    OwnPinChanged,
    Disabled,
    Enabled,
    Unlocked,
    ScreenEnrolled,
    ScreenRetired,
}

/// <summary>Something done to a person's account or a screen, by whom and when.</summary>
public class PeopleEvent : Fact
{
    public PeopleAct Act { get; set; }
    public int? OperatorId { get; set; }
    public int? ScreenId { get; set; }

    [MaxLength(120)]
    public string? Detail { get; set; }
}
