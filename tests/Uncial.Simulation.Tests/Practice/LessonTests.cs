using Uncial.Core.Parts;
using Uncial.Practice.Lessons;

namespace Uncial.Simulation.Tests;

/// <summary>Lessons can be passed, what they call right is right by the metal, and a broken file is told where it is broken.</summary>
public class LessonTests
{
    private static string File => ShippedLessons.FileOf("clear-of-the-ridge")!;

    [Fact]
    public void Thirteen_ship_each_on_a_mistake_of_its_own_with_every_decision_among_them()
    {
        ShippedLessons.All.Count.ShouldBe(13);
        ShippedLessons.All.Select(l => l.Mistake).Distinct().Count().ShouldBe(13);
        ShippedLessons.All.Select(l => l.Decision).Distinct().Count().ShouldBe(4);
        ShippedLessons.All.Select(l => l.Part.Kind).Distinct().Count().ShouldBe(2);
        ShippedLessons.All.ShouldContain(l => l.Hat != null);
        ShippedLessons.All.Select(l => l.Grade).ShouldBeInOrder();
        ShippedLessons.All[0].Grade.ShouldBe(1);
    }

    /// <summary>Thousand parts of the lessons: none fails to be drawn, and the decision of each is true of it.</summary>
    [Fact]
    public void In_a_thousand_seeded_lessons_the_decision_is_true_of_the_metal()
    {
        foreach (var whole in ShippedLessons.All)
            for (var surface = 1; surface <= whole.Surfaces; surface++)
            {
                var lesson = whole.Of(surface);
                for (var i = 1; i <= 84; i++)
                {
                    var seed = Lesson.SeedOf(i * 7919, surface);
                    var part = lesson.Draw(seed);
                    var truth = PartTruth.Of(part, lesson.Wear.HasCrack);
                    truth.Bears(lesson.Decision).ShouldBeTrue($"{lesson.Id} {surface} {i}: {truth}");
                    Enum.GetValues<Decision>().Count(truth.Bears).ShouldBe(1, $"{lesson.Id} {surface} {i}: {truth}");
                    part.WorstSize(grooves: false).ShouldBe(lesson.Draw(seed).WorstSize(grooves: false));
                }
            }
    }

    [Theory]
    [InlineData("\"discardMm\": 191", "\"discardMm\": 189", "hat.machineToMm", LessonFault.LimitsReversed)]
    [InlineData("\"leaveUncut\"", "\"scrap\"", "hat.decision", LessonFault.DecisionNotTrue)]
    [InlineData("\"leaveUncut\"", "\"leave\"", "hat.decision", LessonFault.NotAWord)]
    [InlineData("\"ridgeMm\": 0.1", "\"ridgeMm\": \"x\"", "hat.wear.ridgeMm", LessonFault.NotNumber)]
    [InlineData("\"ridgeMm\": 0.1", "\"ridgeMm\": 0.1, \"edgeMm\": 3", "hat.wear.edgeMm", LessonFault.Unknown)]
    [InlineData("\"kind\": \"barStarts\"", "\"kind\": \"indicator\"", "gauges", LessonFault.NoGaugeForPart)]
    public void A_drum_in_the_hat_is_told_where_it_is_broken(string from, string to, string path, LessonFault fault)
    {
        var file = ShippedLessons.FileOf("the-drum-in-the-hat")!;
        file.ShouldContain(from);
        LessonFile.Read(file.Replace(from, to, StringComparison.Ordinal)).Faults.ShouldContain(new FaultAt(path, fault));
        // A drum has none.
        var drum = ShippedLessons.FileOf("the-oval-between")!;
        var hat = file[file.IndexOf("\"hat\"", StringComparison.Ordinal)..file.IndexOf("\"gauges\"", StringComparison.Ordinal)];
        LessonFile
            .Read(drum.Replace("\"gauges\"", hat + "\"gauges\"", StringComparison.Ordinal))
            .Faults.ShouldBe([new("hat", LessonFault.Unknown)]);
    }

    [Fact]
    public void A_part_is_worn_as_its_lesson_says()
    {
        var drum = VirtualPart.Worn(
            PartKind.Drum,
            new(254, 255.5, 256),
            0,
            new()
            {
                Left = 0.5,
                Oval = 0.2,
                At = 45,
            },
            new(1)
        );
        drum.WorstSize(grooves: false).ShouldBe(255.5, 1e-9);
        var middle = drum.ReadingStation;
        (drum.SizeAt(9, middle) - drum.SizeAt(27, middle)).ShouldBe(0.2, 0.01); // 45° and 135°
        (drum.SizeAt(0, middle) - drum.SizeAt(18, middle)).ShouldBe(0, 0.01);
        var rotor = VirtualPart.Worn(
            PartKind.Rotor,
            new(24, 22.6, 22),
            140,
            new()
            {
                Left = 1,
                Variation = 0.06,
                At = 90,
                Runout = 0.1,
            },
            new(1)
        );
        rotor.WorstSize(grooves: false).ShouldBe(23, 1e-9);
        (rotor.SizeAt(54, rotor.ReadingStation) - rotor.SizeAt(18, rotor.ReadingStation)).ShouldBe(0.06, 0.01); // thin at 90°
        var (high, low) = rotor.Faces[0].Extremes(rotor.StationsMm.Count - 1);
        (high - low).ShouldBe(0.1, 0.04);
    }

    [Theory]
    [InlineData("\"nominalMm\": 22", "\"nominalMm\": \"thick\"", "part.nominalMm", LessonFault.NotNumber)]
    [InlineData("\"nominalMm\": 22", "\"nominalMm\": 2200", "part.nominalMm", LessonFault.OutOfRange)]
    [InlineData("\"nominalMm\": 22", "\"nominalMm\": 19", "part.machineToMm", LessonFault.LimitsReversed)]
    [InlineData("\"kind\": \"rotor\"", "\"kind\": \"plate\"", "part.kind", LessonFault.NotAWord)]
    [InlineData("\"kind\": \"rotor\"", "\"kind\": \"0\"", "part.kind", LessonFault.NotAWord)]
    [InlineData("\"kind\": \"micrometer\"", "\"kind\": \"tape\"", "gauges[0].kind", LessonFault.NotAWord)]
    [InlineData("\"kind\": \"micrometer\"", "\"kind\": \"barStarts\"", "gauges", LessonFault.NoGaugeForPart)]
    [InlineData("\"leftMm\"", "\"left\"", "wear.leftMm", LessonFault.Missing)]
    [InlineData("\"leftMm\"", "\"left\"", "wear.left", LessonFault.Unknown)]
    [InlineData("    1.2,\n      1.6", "    1.6,\n      1.2", "wear.leftMm", LessonFault.RangeReversed)]
    [InlineData("    1.2,\n      1.6", "    -1.6,\n      -1.2", "decision", LessonFault.DecisionNotTrue)]
    [InlineData("    1.2,\n      1.6", "    1.2,\n      \"a\"", "wear.leftMm[1]", LessonFault.NotNumber)]
    [InlineData("\"grade\": 1", "\"grade\": 6", "grade", LessonFault.OutOfRange)]
    [InlineData("\"id\": \"clear", "\"id\": \"../clear", "id", LessonFault.NotAWord)]
    [InlineData("\"dirty\": false", "\"dirty\": \"no\"", "lathe.dirty", LessonFault.NotFlag)]
    [InlineData("\"dirty\": false", "\"dirty\": false, \"colour\": 1", "lathe.colour", LessonFault.Unknown)]
    [InlineData("\"reading\",", "\"reading\", \"reading\",", "marked", LessonFault.WrongCount)]
    [InlineData("\"lathe\": {", "\"lathe\": 3, \"x\": {", "lathe", LessonFault.NotGroup)]
    [InlineData("\"format\": \"uncial-lesson\"", "\"format\": \"uncial-job\"", "", LessonFault.NotALesson)]
    [InlineData("\"version\": 1", "\"version\": 2", "", LessonFault.NotALesson)]
    [InlineData("\"part\": {", "\"part\": {,", "line 10", LessonFault.NotJson)]
    public void A_broken_file_is_told_where_it_is_broken(string from, string to, string path, LessonFault fault)
    {
        File.ShouldContain(from);
        var (lesson, faults) = LessonFile.Read(File.Replace(from, to, StringComparison.Ordinal));
        lesson.ShouldBeNull();
        faults.ShouldContain(new FaultAt(path, fault), string.Join(", ", faults));
    }

    [Fact]
    public void Every_fault_of_a_file_is_named_at_once_and_no_text_ends_the_reader()
    {
        var broken = File.Replace("\"grade\": 1", "\"grade\": 9", StringComparison.Ordinal)
            .Replace("\"rotor\"", "\"x\"", StringComparison.Ordinal);
        LessonFile.Read(broken).Faults.Count.ShouldBeGreaterThanOrEqualTo(2);
        foreach (var text in new[] { null, "", "[]", "null", "3", "{}", "{\"format\":3}", new string('[', 5000), new string(' ', 70_000) })
            LessonFile.Read(text).Faults.ShouldNotBeEmpty();
        // Cut off anywhere, it is a broken file and no more.
        for (var length = 0; length < File.Length; length += 7)
            LessonFile.Read(File[..length]).Lesson.ShouldBeNull();
    }

    [Fact]
    public void What_is_written_is_read_as_the_same_lesson()
    {
        foreach (var lesson in ShippedLessons.All)
        {
            var text = LessonWriter.Write(lesson);
            var again = LessonFile.Read(text).Lesson.ShouldNotBeNull(lesson.Id);
            LessonWriter.Write(again).ShouldBe(text);
            again.Gauges.ShouldBe(lesson.Gauges);
            again.Lathe.ShouldBe(lesson.Lathe);
            again.Surfaces.ShouldBe(lesson.Surfaces);
            for (var surface = 1; surface <= lesson.Surfaces; surface++)
            {
                // The same metal of the same seed says that nothing of the wear is lost.
                var (a, b) = (again.Of(surface).Draw(11), lesson.Of(surface).Draw(11));
                for (var angle = 0; angle < WorkFace.Angles; angle++)
                    a.SizeAt(angle, a.ReadingStation).ShouldBe(b.SizeAt(angle, b.ReadingStation));
                (again.Of(surface).Decision, again.Of(surface).Wear.HasCrack).ShouldBe(
                    (lesson.Of(surface).Decision, lesson.Of(surface).Wear.HasCrack)
                );
            }
        }
    }
}
