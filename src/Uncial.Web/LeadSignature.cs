using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Uncial.Data;

namespace Uncial.Web;

/// <summary>A lead hand signs with a PIN at whatever screen the part is on; whoever is signed in there stays so.</summary>
public sealed class LeadSignature(UserManager<Operator> operators, SignInManager<Operator> signIn)
{
    public const string WhoField = "Lead";
    public const string PinField = "LeadPin";

    /// <summary>Those who may sign, by name.</summary>
    public async Task<IReadOnlyList<Operator>> LeadsAsync() =>
        [.. (await operators.GetUsersInRoleAsync(Roles.Lead)).Concat(await operators.GetUsersInRoleAsync(Roles.Owner)).DistinctBy(o => o.Id).OrderBy(o => o.DisplayName, StringComparer.Ordinal)];

    /// <summary>Checks name and PIN; what is wrong stands at its field. Five misses lock, as at sign-in.</summary>
    /// <returns>The number of the lead who signed, or null.</returns>
    public async Task<int?> SignAsync(int? who, string? pin, ModelStateDictionary wrong)
    {
        ArgumentNullException.ThrowIfNull(wrong);
        var lead = (await LeadsAsync()).FirstOrDefault(l => l.Id == who);
        if (lead is null) { wrong.AddModelError(WhoField, "Pick who signs."); return null; }
        if (string.IsNullOrEmpty(pin)) { wrong.AddModelError(PinField, $"PIN of {lead.DisplayName}."); return null; }
        var result = await signIn.CheckPasswordSignInAsync(lead, pin, lockoutOnFailure: true);
        if (result.Succeeded) return lead.Id;
        wrong.AddModelError(PinField, result.IsLockedOut ? "Locked for five minutes after five misses." : "That is not the PIN.");
        return null;
    }
}

/// <summary>The fields in which a lead signs.</summary>
/// <param name="Leads">Those who may.</param>
/// <param name="Who">Who is picked.</param>
/// <param name="WrongWho">What is wrong with the name, or null.</param>
/// <param name="WrongPin">What is wrong with the PIN, or null.</param>
public sealed record LeadFields(IReadOnlyList<Operator> Leads, int? Who, string? WrongWho, string? WrongPin);
