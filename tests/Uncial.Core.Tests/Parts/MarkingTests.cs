using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Tests;

public class MarkingTests
{
    private static string Said(string text, PartKind part)
    {
        var (marking, fault) = CastMarking.Read(text, part);
        return fault?.ToString()
            ?? string.Join(
                "; ",
                marking!.Limits.Select(l =>
                    FormattableString.Invariant($"{l.Kind} {l.Value.In(l.Unit):0.####} {LengthText.Name(l.Unit)}")
                    + (l.KindIsGuessed ? " kind?" : "")
                    + (l.UnitIsGuessed ? " unit?" : "")
                )
            ) + (marking.NotUnderstood.Count > 0 ? " not " + string.Join(',', marking.NotUnderstood) : "");
    }

    [Theory]
    [InlineData("MIN TH 22.4", "Discard 22.4 mm kind? unit?")]
    [InlineData("min. thickness 22,4 mm", "Discard 22.4 mm kind?")]
    [InlineData("MIN THK .882 IN", "Discard 0.882 in kind?")]
    [InlineData("MIN TH .882", "Discard 0.882 in kind? unit?")]
    [InlineData("22.4 min", "Discard 22.4 mm kind? unit?")]
    [InlineData("MIN TH 22.4MM", "Discard 22.4 mm kind?")]
    [InlineData("DISCARD 22.4", "Discard 22.4 mm unit?")]
    [InlineData("MIN TH. 22.4 DISCARD", "Discard 22.4 mm unit?")]
    [InlineData("MACHINE TO 23.0mm", "MachineTo 23 mm")]
    [InlineData("NEW 26.0 MACH TO 23.4 DISCARD 23.0", "Nominal 26 mm unit?; MachineTo 23.4 mm unit?; Discard 23 mm unit?")]
    [InlineData("26.0 NEW 23.0 DISCARD", "Nominal 26 mm unit?; Discard 23 mm unit?")]
    [InlineData("MIN TH 22.4 MM .882 IN", "Discard 0.882 in kind?")] // 22.4028, the stricter of two roundings
    [InlineData("GQ7 MIN TH 22.4 4X118", "Discard 22.4 mm kind? unit? not GQ7,4X118")]
    [InlineData("22.4", "Discard 22.4 mm kind? unit?")]
    [InlineData("MIN TH 22.4 MIN TH 23", "Twice")]
    [InlineData("MAX DIA 230.1", "OtherPart")]
    [InlineData("DIA 300", "OtherPart")]
    [InlineData("MIN TH 22.4 IN", "CannotBe")]
    [InlineData("MIN TH 2240", "CannotBe")]
    [InlineData("MIN TH 3.1", "UnitUnclear")]
    [InlineData("MIN TH 22.4 MM .900 IN", "UnitsDisagree")]
    [InlineData("MIN TH", "NoFigure")]
    [InlineData("", "NoFigure")]
    public void A_marking_on_a_rotor(string text, string said) => Said(text, PartKind.Rotor).ShouldBe(said);

    [Theory]
    [InlineData("MAX DIA 9.060 IN", "Discard 9.06 in kind?")]
    [InlineData("max dia 9.060\"", "Discard 9.06 in kind?")]
    [InlineData("Ø MAX 230.1 MM / 9.060 IN", "Discard 230.1 mm kind?")] // 9.060 in is 230.124
    [InlineData("MAX DIA 230,1", "Discard 230.1 mm kind? unit?")]
    [InlineData("MACH. 9.040 DISCARD 9.060", "MachineTo 9.04 in unit?; Discard 9.06 in unit?")]
    [InlineData("MIN TH 22.4", "OtherPart")]
    public void A_marking_on_a_drum(string text, string said) => Said(text, PartKind.Drum).ShouldBe(said);

    [Fact]
    public void Only_the_digits_that_are_cast_in_parts_are_figures()
    {
        foreach (var text in new[] { "MIN TH ٢٢", "MIN TH ２２.４", "MIN TH २२" })
            CastMarking.Read(text, PartKind.Rotor).Fault.ShouldBe(MarkingFault.NoFigure, text);
    }

    [Fact]
    public void Any_writing_of_a_limit_gives_the_limit()
    {
        var written = Gen.Select(
            Gen.Int[300, 6000],
            Gen.OneOfConst(
                "MIN TH {0}",
                "min. th. {0}",
                "Thickness min {0} mm",
                "{0}mm MIN",
                "DISCARD {0}",
                "({0})",
                "MIN={0}",
                "MIN TH:{0} MM"
            ),
            Gen.Bool
        );
        written.Sample(
            (hundredths, form, comma) =>
            {
                var figure = (hundredths / 100m).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture);
                var (marking, fault) = CastMarking.Read(
                    form.Replace("{0}", comma ? figure.Replace('.', ',') : figure, StringComparison.Ordinal),
                    PartKind.Rotor
                );
                if (fault == MarkingFault.UnitUnclear)
                    hundredths.ShouldBeInRange(300, 315);
                else
                    marking!
                        .Limits.Single()
                        .ShouldSatisfyAllConditions(
                            l => l.Value.ShouldBe(Mm.Of(hundredths / 100m)),
                            l => l.Kind.ShouldBe(LimitKind.Discard)
                        );
            }
        );
        Gen.String.Sample(text =>
        {
            _ = CastMarking.Read(text, PartKind.Drum);
        });
    }

    [Fact]
    public void Of_two_sources_the_stricter_holds()
    {
        HeldLimit.Strictest(PartKind.Rotor, [Mm.Of(22.4m), Mm.Of(23m)]).ShouldBe(Mm.Of(23m));
        HeldLimit.Strictest(PartKind.Drum, [Mm.Of(230.1m), Mm.Of(230.124m)]).ShouldBe(Mm.Of(230.1m));
        HeldLimit.Differ([Mm.Of(23m), Mm.Of(23.00m)]).ShouldBeFalse();
        HeldLimit.Differ([Mm.Of(23m), Mm.Of(22.4m)]).ShouldBeTrue();
    }
}
