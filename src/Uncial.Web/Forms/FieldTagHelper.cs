using System.Net;
using Microsoft.AspNetCore.Razor.TagHelpers;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Times;
using Uncial.Web.Text;

namespace Uncial.Web.Forms;

/// <summary>A labelled field of the slate with the place where it says how it was understood, or what is wrong with it.</summary>
[HtmlTargetElement("say-field")]
public sealed class FieldTagHelper : TagHelper
{
    public string Label { get; set; } = "";
    public string Name { get; set; } = "";
    public string? Value { get; set; }
    public string? Wrong { get; set; }
    public string? Hint { get; set; }
    public bool IsLength { get; set; }

    /// <summary>A place or an arc on the clock.</summary>
    public bool IsClock { get; set; }

    /// <summary>A time to come, as it is said.</summary>
    public bool IsTime { get; set; }

    /// <summary>A day, as it is said.</summary>
    public DayLean? Day { get; set; }
    public bool Focus { get; set; }
    public string Css { get; set; } = "";

    /// <summary>What is proposed while one types.</summary>
    public IReadOnlyList<string>? Proposes { get; set; }

    /// <summary>The gauge that may send its figure.</summary>
    public int? Live { get; set; }
    public string Type { get; set; } = "text";

    /// <summary>A depth that somebody looks for: one key says that there is none, one that nobody looked.</summary>
    public bool Looks { get; set; }

    /// <summary>Letters that belong to what is typed here. Others act at once, as the keys that are printed on buttons.</summary>
    private string Letters =>
        Looks ? $" data-letters=\"{LengthParser.Letters}{LookedFor.Letters}\" data-begins=\"{LookedFor.Letters[0]}\""
        : IsLength ? $" data-letters=\"{LengthParser.Letters}\""
        : IsClock ? $" data-letters=\"{ClockText.Letters}\" data-begins=\"{ClockText.FirstLetters}\""
        : "";

    private string Proposed =>
        Proposes is { Count: > 0 } proposed
            ? $"<datalist id=\"{WebUtility.HtmlEncode(Name)}-proposed\">"
                + string.Concat(proposed.Select(p => $"<option value=\"{WebUtility.HtmlEncode(p)}\">"))
                + "</datalist>"
            : "";

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        output.TagName = Looks ? "div" : "label";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute(
            "class",
            $"field {Css} {(IsClock ? "clock" : "")} {(Looks ? "looks" : "")} {(string.IsNullOrEmpty(Wrong) ? "" : "is-wrong")}".Trim()
        );
        static string E(string? text) => WebUtility.HtmlEncode(text ?? "");
        output.Content.SetHtmlContent(
            (Looks ? "<label>" : "")
                + $"<span>{E(Label)}</span><input type=\"{E(Type)}\" name=\"{E(Name)}\" value=\"{E(Value)}\" data-next "
                + $"autocomplete=\"off\" placeholder=\"{E(Hint)}\" maxlength=\"120\""
                + (IsLength ? " class=\"fig\" data-length inputmode=\"text\"" : "")
                + (IsTime ? " data-time" : "")
                + (Day is { } lean ? $" data-day=\"{lean}\"" : "")
                + (Proposes is { Count: > 0 } ? $" list=\"{E(Name)}-proposed\"" : "")
                + Letters
                + (Live is { } gauge ? $" data-live-field=\"{gauge}\"" : "")
                + (Focus ? " autofocus" : "")
                + (string.IsNullOrEmpty(Wrong) ? "" : " aria-invalid=\"true\"")
                + (
                    Looks
                        ? " data-looks-in></label><button type=\"button\" data-looks=\"none\" "
                            + $"aria-label=\"{E(Words.Say("field.none", Label))}\">"
                            + $"{E(Words.Say("field.none2"))}</button><button type=\"button\" data-looks=\"not looked\" "
                            + $"aria-label=\"{E(Words.Say("field.notLookedAt", Label))}\" title=\"{E(Words.Say("field.notLookedAt2"))}\">"
                            + $"{E(Words.Say("word.Wipe"))}</button>"
                        : ">"
                )
                + $"<span class=\"says\" role=\"status\">{E(Wrong)}</span>"
                + Proposed
        );
    }
}
