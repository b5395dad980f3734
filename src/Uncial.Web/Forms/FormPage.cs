using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Lengths;
using Uncial.Core.Times;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Forms;

/// <summary>A page with fields: each kind of field is read in one way, and what is wrong stands at its field.</summary>
public abstract class FormPage(Reader reader, TimeProvider time) : PageModel
{
    /// <summary>Kilometres that no vehicle has run.</summary>
    private const int MostKilometres = 5_000_000;

    /// <summary>The lead who signs, where somebody has to.</summary>
    [BindProperty]
    public int? Lead { get; set; }

    [BindProperty]
    public string? LeadPin { get; set; }

    /// <summary>Those who may sign; loaded where a signature is asked for.</summary>
    public IReadOnlyList<Operator> Leads { get; protected set; } = [];

    public LeadFields LeadFields => new(Leads, Lead, Wrong(LeadFields.WhoField), Wrong(LeadFields.PinField));

    /// <summary>Something that went wrong with the action as a whole.</summary>
    public string? Trouble { get; protected set; }

    protected Reader Reader => reader;
    protected TimeProvider Time => time;

    /// <summary>The time by the server's clock.</summary>
    public DateTimeOffset Now => time.GetUtcNow();

    /// <summary>Name of the server's time zone, which holds where the shop has set none.</summary>
    public string ServerZone => time.LocalTimeZone.Id;

    /// <summary>The day of the shop.</summary>
    protected DateOnly Today => Dates.Shop.DayOf(Now);

    protected Actor Actor => new(reader.OperatorId, reader.Role, Now);
    protected SignatureTyped SignatureTyped =>
        new(Lead, LeadPin, reader.SessionToken, ScreenCookie.Of(Request), ScreenCookie.AddressOf(HttpContext));

    /// <summary>What is wrong with a field, or null.</summary>
    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    /// <summary>Says at a field what is wrong with it.</summary>
    protected void Reject(string field, string text) => ModelState.AddModelError(field, text);

    /// <summary>Reads a time to come, or says at its field why it is none. A field that is left empty is null.</summary>
    /// <param name="text">The field.</param>
    /// <param name="field">Its name.</param>
    protected DateTimeOffset? ReadTime(string? text, [CallerArgumentExpression(nameof(text))] string field = "")
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var (at, fault) = TimeText.Read(text, Now, Dates.Shop.Zone, Dates.Shop.Style);
        if (fault is { } why)
            Reject(field, Words.Say("timeFault." + why));
        return at?.ToUniversalTime();
    }

    /// <summary>Reads a day, or says at its field why it is none. A field that is left empty is null.</summary>
    /// <param name="text">The field.</param>
    /// <param name="lean">Which day is meant by one without a year.</param>
    /// <param name="field">Its name.</param>
    protected DateOnly? ReadDay(string? text, DayLean lean, [CallerArgumentExpression(nameof(text))] string field = "")
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var (day, fault) = DayText.Read(text, Today, Dates.Shop.Style, lean);
        if (fault is { } why)
            Reject(field, Words.Say("dayFault." + why));
        return day;
    }

    /// <summary>Reads a length, or says at its field what is wrong with it. A field that is left empty is null.</summary>
    /// <param name="input">The field.</param>
    /// <param name="rule">What the field takes; the reader's unit and any length where none is given.</param>
    /// <param name="field">Name of the field where the form has not sent it.</param>
    protected TypedLength? ReadLength(
        LengthInput? input,
        LengthRule? rule = null,
        [CallerArgumentExpression(nameof(input))] string field = ""
    )
    {
        var takes = rule ?? new();
        if (!takes.Required && IsBlank(input))
            return null;
        var (unit, name) = (takes.Unit ?? reader.Unit, input is { Field.Length: > 0 } ? input.Field : field);
        var result = LengthParser.Parse(input?.Text, unit, takes.AllowZero);
        if (result.Fault is { } fault)
            Reject(name, Words.Of(fault, unit));
        else if (takes.Most is { } most && result.Typed!.Value > most)
        {
            Reject(name, takes.TooMuch is { } key ? Words.Say(key) : Words.Say("form.over", reader.SizeWith(most)));
            return null;
        }
        return result.Typed;
    }

    /// <summary>Reads a text, or says at its field that it is missing or too long.</summary>
    /// <param name="text">The text.</param>
    /// <param name="most">Letters at most.</param>
    /// <param name="missing">Key of what is said where it is empty; null where it may be.</param>
    /// <param name="field">Name of the field.</param>
    protected string? ReadText(string? text, int most, string? missing = null, [CallerArgumentExpression(nameof(text))] string field = "")
    {
        if (text?.Trim() is not { Length: > 0 } trimmed)
        {
            if (missing is not null)
                Reject(field, Words.Say(missing));
            return null;
        }
        if (trimmed.Length <= most)
            return trimmed;
        Reject(field, Words.Say("form.atMost", most));
        return null;
    }

    /// <summary>Reads kilometres, or says at their field that they cannot be; null where none are given.</summary>
    protected int? ReadKilometres(string? text, [CallerArgumentExpression(nameof(text))] string field = "")
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (
            int.TryParse(text.Replace(" ", "", StringComparison.Ordinal), NumberStyles.None, CultureInfo.InvariantCulture, out var km)
            && km <= MostKilometres
        )
            return km;
        Reject(field, Words.Say("form.kilometres"));
        return null;
    }

    /// <summary>Whether nothing was typed.</summary>
    protected static bool IsBlank([NotNullWhen(false)] LengthInput? input) => string.IsNullOrWhiteSpace(input?.Text);

    /// <summary>Says why an action was refused: at its field, or above the form.</summary>
    protected virtual void Tell(Refusal refusal)
    {
        ArgumentNullException.ThrowIfNull(refusal);
        switch (refusal)
        {
            case Refusal.NotSigned { Why: SignatureFault.NoSigner }:
                Reject(LeadFields.WhoField, Words.Of(refusal));
                break;
            case Refusal.NotSigned:
                Reject(LeadFields.PinField, Words.Of(refusal));
                break;
            case Refusal.Missing { What: Answer.Reason } or Refusal.ReadAgainFirst:
                if (Wrong("Reason") is null)
                    Reject("Reason", Words.Of(refusal));
                break;
            default:
                Trouble = Words.Of(refusal);
                break;
        }
    }
}

/// <summary>What a field for a length takes.</summary>
/// <param name="Unit">Unit of a bare number; the reader's where none is given.</param>
/// <param name="AllowZero">It may be zero.</param>
/// <param name="Required">It may not be empty.</param>
/// <param name="Most">The greatest that it may be.</param>
/// <param name="TooMuch">Key of what is said above that; null for the usual words.</param>
public sealed record LengthRule(
    LengthUnit? Unit = null,
    bool AllowZero = false,
    bool Required = false,
    Length? Most = null,
    string? TooMuch = null
)
{
    /// <summary>No groove, run-out or other depth on a part is more.</summary>
    private static readonly Length DeepestDepth = Length.FromMillimetres(50);

    /// <summary>A length that has to be there.</summary>
    public static LengthRule Needed { get; } = new(Required: true);

    /// <summary>A depth that has to be there and may be nothing.</summary>
    public static LengthRule Depth { get; } = new(AllowZero: true, Required: true, Most: DeepestDepth, TooMuch: "fault.tooDeep");

    /// <summary>A length that has to be there, at most so much.</summary>
    public static LengthRule UpTo(decimal millimetres) => new(Required: true, Most: Length.FromMillimetres(millimetres));
}
