using Microsoft.AspNetCore.Razor.TagHelpers;
using Uncial.Web.Text;

namespace Uncial.Web.Forms;

/// <summary>What stands at a form while the server does not answer; shown by the script that sends forms.</summary>
[HtmlTargetElement("server-lost", TagStructure = TagStructure.WithoutEndTag)]
public sealed class LostTagHelper : TagHelper
{
    /// <summary>
    /// Key of the sentence that says what is still there, below <c>lost.</c>: typed, ticked, tapped, again, cutsOn, notCounted.
    /// </summary>
    public string Says { get; set; } = "typed";

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "alert");
        output.Attributes.SetAttribute("data-lost", "");
        output.Attributes.SetAttribute("role", "alert");
        output.Content.AppendHtml("<b>").Append(Words.Say("lost.noAnswer")).AppendHtml("</b> ").Append(Words.Say("lost." + Says));
    }
}
