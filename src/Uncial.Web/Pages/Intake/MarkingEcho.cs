using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Says how a cast marking is understood while it is typed.</summary>
internal static class MarkingEcho
{
    public static void MapMarkingEcho(this IEndpointRouteBuilder app) =>
        app.MapGet("/markings/echo", (string text, string? part) =>
            {
                var kind = part == "drum" ? PartKind.Drum : PartKind.Rotor;
                var (marking, fault) = CastMarking.Read(text, kind);
                return marking is null ? Echoes.Wrong(Words.Say("marking." + fault)) : Echoes.Says(Say(marking, kind));
            })
            .ExcludeFromDescription();

    /// <summary>A marking in words: each limit in both units, and what was guessed.</summary>
    public static string Say(CastMarking marking, PartKind part) =>
        string.Join(
            "; ",
            marking.Limits.Select(l =>
                $"{Words.Say("limitKind." + l.Kind)} {LengthText.Limit(l.Value, l.Unit, part == PartKind.Rotor)} "
                + $"{LengthText.Name(l.Unit)} "
                + $"({Words.With(l.Value, l.Unit == LengthUnit.Inch ? LengthUnit.Millimetre : LengthUnit.Inch)})"
                + (l.KindIsGuessed ? Words.Say("receive.asACastingNearlyAlways") : "")
            )
        ) + (marking.NotUnderstood.Count > 0 ? Words.Say("receive.notRead", string.Join(", ", marking.NotUnderstood)) : "");
}
