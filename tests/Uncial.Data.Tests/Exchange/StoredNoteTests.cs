using System.Reflection;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Data;

namespace Uncial.Data.Tests;

/// <summary>Notes stand in stored plans and passes: what is written is read back, and what an earlier version wrote is no fault.</summary>
public class StoredNoteTests
{
    private static IEnumerable<Note> All() =>
        typeof(Note)
            .GetNestedTypes()
            .Where(t => t.IsSealed)
            .Select(t => (Note)t.GetConstructors().Single().Invoke([.. t.GetConstructors().Single().GetParameters().Select(Value)]));

    private static object Value(ParameterInfo parameter, int at) =>
        (Nullable.GetUnderlyingType(parameter.ParameterType) ?? parameter.ParameterType) switch
        {
            var t when t == typeof(Length) => Length.FromMillimetres(1.5m + at),
            var t when t == typeof(decimal) => 240m,
            _ => parameter.Name == "Name" ? "longGone" : "grooveOuter",
        };

    [Fact]
    public void Every_note_is_read_back_as_it_was_written()
    {
        var all = All().ToList();
        all.Count.ShouldBeGreaterThan(80);
        foreach (var note in all)
            StoredJson.Read<Note>(StoredJson.Write(note)).ShouldBe(note);
        StoredJson.Read<List<Note>>(StoredJson.Write<IReadOnlyList<Note>>(all)).ShouldBe(all);
    }

    [Fact]
    public void What_an_earlier_version_stored_is_kept_by_its_name()
    {
        StoredJson
            .Read<Note>("""{"code":"dialDrifts","length":0.12,"second":0.2}""")
            .ShouldBe(new Note.DialDrifts(Length.FromMillimetres(0.12m), Length.FromMillimetres(0.2m)));
        StoredJson.Read<Note>("""{"code":"nobodyKnows","length":1}""").ShouldBe(new Note.OfEarlierVersion("nobodyKnows"));
        StoredJson.Read<Note>("""{"code":"dialDrifts","length":0.12}""").ShouldBe(new Note.OfEarlierVersion("dialDrifts"));
        Uncial.Web.Text.Words.Of(new Note.OfEarlierVersion("nobodyKnows"), LengthUnit.Millimetre).ShouldBe("nobodyKnows");
    }

    [Fact]
    public void Every_note_has_words_on_some_screen()
    {
        foreach (var note in All().Where(n => n is not Note.OfEarlierVersion))
        {
            var mounting = Uncial.Web.Text.Words.Has("mountWhy." + note.Code);
            var change = note is Note.PlanOutlived;
            (mounting || change || Uncial.Web.Text.Words.Has("note." + note.Code)).ShouldBeTrue(note.Code);
        }
    }
}
