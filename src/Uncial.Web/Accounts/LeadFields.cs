namespace Uncial.Web.Accounts;

/// <summary>The fields in which a lead signs.</summary>
/// <param name="Leads">Those who may.</param>
/// <param name="Who">Who is picked.</param>
/// <param name="WrongWho">What is wrong with the name, or null.</param>
/// <param name="WrongPin">What is wrong with the PIN, or null.</param>
public sealed record LeadFields(IReadOnlyList<Operator> Leads, int? Who, string? WrongWho, string? WrongPin)
{
    /// <summary>Name of the field for the signer.</summary>
    public const string WhoField = "Lead";

    /// <summary>Name of the field for the PIN.</summary>
    public const string PinField = "LeadPin";
}
