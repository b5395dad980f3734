using CsCheck;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>The limit book as a file.</summary>
public class BookCsvTests
{
    private const string Head = "vehicle,axle,part,new,machine_to,discard,unit,source\n";

    private static IReadOnlyList<BookLine> Read(string text) => BookCsv.Read(text, [], ShopRules.Default).Lines;

    [Fact]
    public void A_book_that_was_written_reads_back_to_the_last_digit()
    {
        var size = Gen.Select(Gen.Int[1, 5_000], Gen.Bool, (n, inch) =>
                inch ? Length.FromInches(n / 100_000m) : Length.FromMillimetres(n / 1000m)
            )
            .Nullable();
        var entry = Gen.Select(
                Gen.String[Gen.Char["abcÆ ,;\"'=+-@\t%_x"], 1, 12],
                Gen.Enum<Axle>(),
                Gen.Bool,
                Gen.Enum<LengthUnit>(),
                Gen.Int[0, 400],
                size,
                Gen.Date
            )
            .Select(
                (name, axle, rotor, unit, thousandths, waviness, day) =>
                {
                    var step = Length.From(thousandths / 1000m, unit) * (unit == LengthUnit.Inch ? 0.04m : 1m);
                    var discard = (rotor ? Length.FromInches(0.75m) : Length.FromInches(9.1m)) + step;
                    return new BookEntry
                    {
                        Vehicle = ("V" + name).Trim(),
                        Axle = axle,
                        Kind = rotor ? PartKind.Rotor : PartKind.Drum,
                        Unit = unit,
                        Source = ("=" + name).Trim(),
                        SourceDate = DateOnly.FromDateTime(day),
                        Discard = discard,
                        MachineTo =
                            waviness is null ? null
                            : rotor ? discard + waviness
                            : discard - waviness,
                        MaxRunout = waviness,
                        MaxVariation = rotor ? waviness : null,
                        MaxOutOfRound = rotor ? null : waviness,
                    };
                }
            );
        entry
            .Array[1, 6]
            .Sample(entries =>
            {
                var distinct = entries.DistinctBy(e => e.Place).ToList();
                var lines = Read(BookCsv.Write(distinct));
                lines.Count.ShouldBe(distinct.Count);
                foreach (var (line, e) in lines.Zip(distinct))
                    (line.Entry?.SaysTheSameAs(e)).ShouldBe(true, string.Join("; ", line.Faults) + BookCsv.Write([e]));
            });
        Gen.String.Sample(text =>
        {
            _ = BookCsv.Read(text, [], ShopRules.Default);
        });
        Gen.String[Gen.Char["a,\";\n\r1.x"], 0, 60]
            .Sample(text =>
            {
                _ = BookCsv.Read(Head + text, [], ShopRules.Default);
            });
    }

    [Theory]
    [InlineData("Pilchard,front,rotor,20,18.4,18,mm,sheet", null, null)]
    [InlineData("Pilchard,front,rotor,20,18.4,18,mm,", "source", "Missing")]
    [InlineData("Pilchard,left,rotor,20,18.4,18,mm,sheet", "axle", "front, rear")]
    [InlineData("Pilchard,front,disc,20,18.4,18,mm,sheet", "part", "rotor, drum")]
    [InlineData("Pilchard,front,rotor,20,18.4,18,cm,sheet", "unit", "mm or in")]
    [InlineData("Pilchard,front,rotor,20,18.4,18,in,sheet", "discard", "is the unit right")]
    [InlineData("Pilchard,front,rotor,20,17.4,18,mm,sheet", "machine_to", "thinner than discard")]
    [InlineData("Pilchard,rear,drum,203,204.2,204,mm,sheet", "machine_to", "larger than discard")]
    [InlineData("Pilchard,front,rotor,20,,,mm,sheet", "discard", "Neither")]
    [InlineData("Pilchard,front,rotor,20,18.x,18,mm,sheet", "machine_to", "is no size")]
    [InlineData("Pilchard,front,rotor,20,18,4,18,mm,sheet", "line", "in quotes")]
    public void Each_bad_line_is_named_with_its_column_and_its_fault(string line, string? column, string? fault)
    {
        var read = Read(Head + line).Single();
        if (column is null)
        {
            read.Faults.ShouldBeEmpty();
            read.Entry.ShouldNotBeNull();
        }
        else
            read.ShouldSatisfyAllConditions(
                l => l.Entry.ShouldBeNull(),
                l => l.Line.ShouldBe(2),
                l => l.Faults.ShouldContain(f => f.Column == column && f.Fault.Contains(fault!))
            );
    }

    [Fact]
    public void A_file_that_is_none_is_refused_as_a_whole()
    {
        foreach (
            var (text, fault) in new[]
            {
                ("", "empty"),
                ("vehicle;axle\nx;y", "lacks the column"),
                (Head.Replace("unit", "units", StringComparison.Ordinal) + "a", "“units”"),
                (Head, "no lines"),
                ("vehicle,vehicle,part,unit,source\n", "twice"),
            }
        )
            BookCsv.Read(text, [], ShopRules.Default).Fault.ShouldNotBeNull().ShouldContain(fault);
        Read(Head + "A,front,rotor,20,,18,mm,s\na,front,rotor,20,,18,mm,s")[1]
            .Faults.Single()
            .Fault.ShouldBe("The same part as in line 2.");
        Read("vehicle;part;discard;unit;source\nA;drum;\"203,2\";mm;s")[0].Entry!.Discard!.Value.Millimetres.ShouldBe(203.2m);
    }
}
