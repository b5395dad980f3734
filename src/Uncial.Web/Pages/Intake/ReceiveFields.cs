using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>How the fields of a part that is received are read.</summary>
public partial class ReceiveModel
{
    private WorkSurface SurfaceOf(string prefix, SurfaceTyped typed, PartKind kind, Shop shop, BookEntry? entry, string? marking)
    {
        var limits = Limits(prefix, typed, kind, null, shop);
        var marked = ReadMarking(marking, kind);
        var nominal = limits.Find(l => l.Kind == LimitKind.Nominal).Typed?.Value ?? entry?.Nominal;
        // A drum is as wide as it is new; what nobody measured stays unknown and gives no speed and no minutes.
        var across = ReadLength(typed.Across, InUnit, prefix + ".Across")?.Value
            ?? entry?.Across
            ?? (kind == PartKind.Drum ? nominal : null);
        var surface = new WorkSurface
        {
            Kind = kind,
            Diameter = across ?? Length.Zero,
            Band = ReadLength(typed.Band, InUnit, prefix + ".Band")?.Value ?? entry?.Band ?? Length.Zero,
            Places = kind == PartKind.Rotor ? Places : Axes,
            DepthsMm = prefix == nameof(Main) ? StationsOf(kind) : [],
        };
        // One depth says nothing of a bell-mouth: unless depths are named, the middle and near both ends.
        if (kind == PartKind.Drum && surface.DepthsMm.Length == 0 && surface.Band > Length.Zero)
            surface.DepthsMm = [.. DrumDepths.Usual(surface.Band).Select(d => d.Millimetres)];
        if (kind == PartKind.Rotor && surface.DepthsMm.Length > 0)
        {
            if (surface.Diameter == Length.Zero)
                Reject("Main.Across", Words.Say("receive.acrossSeveralRadiiNeedIt"));
            else if (surface.DepthsMm[^1] >= surface.Diameter.Millimetres / 2)
                Reject(nameof(Radii), Words.Say("receive.thatIsPastTheMiddle"));
        }
        State(surface, entry, marked, marking, limits);
        // New size and machine-to before discard: what is stated at once is one first statement, nothing of it laxer than another.
        List<LimitEntry> ordered = [.. surface.LimitEntries.OrderBy(l => l.Kind)];
        surface.LimitEntries.Clear();
        surface.LimitEntries.AddRange(ordered);
        surface.Turn = 0;
        return surface;
    }

    private List<(LimitKind Kind, TypedLength Typed)> Limits(
        string prefix,
        SurfaceTyped typed,
        PartKind kind,
        SurfaceRecord? record,
        Shop shop
    )
    {
        List<(LimitKind Kind, TypedLength Typed)> all = [];
        if (!SourcesByHand.Contains(Source))
            Reject("Source", Words.Say("receive.whatTheBookSaysComes"));
        foreach (
            var (limit, text) in new[]
            {
                (LimitKind.Nominal, typed.Nominal),
                (LimitKind.MachineTo, typed.MachineTo),
                (LimitKind.Discard, typed.Discard),
            }
        )
        {
            if (IsBlank(text) || ReadLength(text, InUnit) is not { } length)
                continue;
            if (!Insist && Plausibility.QuestionLimit(length.Value, kind) is not null)
            {
                AsksToInsist = true;
                Reject(
                    $"{prefix}.{limit}",
                    Words.Say(
                        "limitDoubt",
                        Words.With(length.Value, Unit),
                        Words.With(length.Value, Unit == LengthUnit.Inch ? LengthUnit.Millimetre : LengthUnit.Inch)
                    )
                );
            }
            else
                all.Add((limit, length));
        }
        if (!ModelState.IsValid || all.Count == 0)
            return all;
        Length? Of(LimitKind limit) => all.Find(l => l.Kind == limit).Typed?.Value ?? record?.Receiving.Held(limit)?.Value;
        var fault = Core.Parts.Limits.Create(kind, Of(LimitKind.Nominal), Of(LimitKind.MachineTo), Of(LimitKind.Discard), shop.Rules).Fault;
        if (fault is { } f && f != LimitFault.DiscardMissing)
            Reject($"{prefix}.{(f == LimitFault.MachineToPastDiscard ? LimitKind.MachineTo : LimitKind.Nominal)}", Words.Say("limit." + f));
        return all;
    }

    private IReadOnlyList<MarkedLimit> ReadMarking(string? marking, PartKind kind)
    {
        if (string.IsNullOrWhiteSpace(marking))
            return [];
        var (read, fault) = CastMarking.Read(marking, kind);
        if (fault is not null)
            Reject(nameof(Marking), Words.Say("marking." + fault));
        return read?.Limits ?? [];
    }

    /// <summary>States what the book, the marking and the fields say; a later source comes after an earlier one.</summary>
    private void State(
        WorkSurface surface,
        BookEntry? entry,
        IReadOnlyList<MarkedLimit> marked,
        string? marking,
        IReadOnlyList<(LimitKind Kind, TypedLength Typed)> typed
    )
    {
        if (entry is not null)
            ReceiveCommands.TakeFromBook(surface, entry, Actor);
        foreach (var limit in marked)
            ReceiveCommands.StateLimit(
                surface,
                limit.Kind,
                new(marking!.Trim(), limit.Unit, limit.Value, ""),
                limit.Unit,
                LimitSource.CastMarking,
                Actor
            );
        foreach (var (kind, length) in typed)
            ReceiveCommands.StateLimit(surface, kind, length, Unit, Source, Actor);
    }

    private LengthRule InUnit => new(Unit);

    private decimal[] StationsOf(PartKind kind)
    {
        var (field, text, most) = kind == PartKind.Drum ? (nameof(Depths), Depths, 3) : (nameof(Radii), Radii, 2);
        if (string.IsNullOrWhiteSpace(text))
            return [];
        List<decimal> stations = [];
        foreach (var word in text.Split([';', ' '], StringSplitOptions.RemoveEmptyEntries))
            if (LengthParser.Parse(word, Unit).Typed is { } station)
                stations.Add(station.Value.Millimetres);
            else
                Reject(field, Words.Say(kind == PartKind.Drum ? "receive.depthsSuchAs" : "receive.radiiSuchAs"));
        if (stations.Count > most || stations.Distinct().Count() != stations.Count)
            Reject(field, Words.Say("receive.oneToDifferentOnes", Words.Say(most == 3 ? "count.three" : "count.two")));
        return [.. stations.Order()];
    }
}
