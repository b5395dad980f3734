using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Quick check: a limit and a reading in any unit and form, answered at once, without a job. It may be turned into one.</summary>
public class CheckModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestVehicle = 120;

    [BindProperty(SupportsGet = true)]
    public string Part { get; set; } = "rotor";

    [BindProperty(SupportsGet = true)]
    public string? Limit { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Reading { get; set; }

    [BindProperty]
    public string? Vehicle { get; set; }

    public PartKind Kind => Part == "drum" ? PartKind.Drum : PartKind.Rotor;
    public Limits? Limits { get; private set; }
    public string? LimitSays { get; private set; }
    public string? LimitWrong { get; private set; }
    public IReadOnlyList<TypedLength> Readings { get; private set; } = [];
    public string? ReadingSays { get; private set; }
    public string? ReadingWrong { get; private set; }
    public Length? Worst { get; private set; }
    public Length Uncertainty { get; private set; }
    public string GaugeName { get; private set; } = "";
    public Verdict? Discard { get; private set; }
    public Verdict? MachineTo { get; private set; }
    public double Probability { get; private set; }

    private CastMarking? marking;

    public async Task OnGetAsync(CancellationToken cancel) => await AnswerAsync(cancel);

    /// <summary>A job with this part, its limit and its reading, to be gone on with.</summary>
    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        await AnswerAsync(cancel);
        if (Limits is null || Readings.Count == 0)
        {
            Trouble = Words.Say("check.aLimitAndAReading");
            return Page();
        }
        if (ReadText(Vehicle, LongestVehicle, "check.sayWhichVehicleItIs") is not { } vehicle)
            return Page();
        IReadOnlyList<MarkedLimit> limits = marking?.Limits ?? [new(LimitKind.Discard, Limits.Discard, Reader.Unit, true, false)];
        Part part = new()
        {
            Tag = await NewTagAsync(cancel),
            Corner = Corner.Other,
            Mark = Words.Say("title.quickCheck"),
        };
        part.Surfaces.Add(
            new()
            {
                Kind = Kind,
                Places = Kind == PartKind.Rotor ? 8 : 4,
                Diameter = Kind == PartKind.Drum ? Limits.Nominal ?? Length.Zero : Length.Zero,
            }
        );
        foreach (var limit in limits)
            ReceiveCommands.StateLimit(
                part.Surfaces[0],
                limit.Kind,
                new(Limit!.Trim(), limit.Unit, limit.Value, ""),
                limit.Unit,
                LimitSource.CastMarking,
                Actor
            );
        var opened = await ReceiveCommands.OpenCheckedAsync(db, await file.ShopAsync(cancel), vehicle, part, Readings, Actor, cancel);
        if (opened.Refusal is not { } refusal)
            return Redirect($"/measure/{part.Tag}");
        Tell(refusal);
        return Page();
    }

    private async Task AnswerAsync(CancellationToken cancel)
    {
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.quickCheck"), "", "check");
        var shop = await file.ShopAsync(cancel);
        ReadLimit(shop);
        if (Limits is not { } limits || string.IsNullOrWhiteSpace(Reading))
            return;
        List<TypedLength> readings = [];
        foreach (var text in Reading.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(12))
        {
            var result = LengthParser.Parse(text, Reader.Unit);
            var typed = result.Typed;
            // A bare figure is taken in the unit in which such a part can have it.
            var other = LengthParser.Parse(text, Reader.Unit == LengthUnit.Inch ? LengthUnit.Millimetre : LengthUnit.Inch).Typed;
            if (
                other is not null
                && Plausibility.Question(other.Value, limits) is null
                && (typed is null || Plausibility.Question(typed.Value, limits) is not null)
            )
                typed = other;
            if (typed is null)
            {
                ReadingWrong = Words.Of(result.Fault!.Value, Reader.Unit);
                return;
            }
            readings.Add(typed);
        }
        if (readings.Count == 0)
            return;
        Readings = readings;
        ReadingSays = string.Join("; ", readings.Select(r => r.Echo));
        Worst = Kind == PartKind.Rotor ? readings.Min(r => r.Value) : readings.Max(r => r.Value);
        if (Plausibility.Question(Worst.Value, limits) is { } odd)
            ReadingWrong = Words.Of(odd, Worst.Value, limits, Reader.Unit);
        var gauge = shop.GaugeFor(Kind);
        (Uncertainty, GaugeName) = (gauge?.UncertaintyAt(Worst.Value, 1, false, shop.Rules) ?? Length.Zero, gauge?.Name ?? "");
        (Discard, MachineTo) = (
            Conformity.Decide(Margin(limits.Discard), Uncertainty),
            Conformity.Decide(Margin(limits.MachineTo), Uncertainty)
        );
        Probability = Conformity.ProbabilityWithin(Margin(limits.Discard), Uncertainty);
    }

    /// <summary>From the worst reading to a limit; negative beyond it.</summary>
    public Length Margin(Length limit) => Limits.Margin(Kind, Worst!.Value, limit);

    /// <summary>A marking as it is cast, or a length in any form that a gauge gives.</summary>
    private void ReadLimit(Shop shop)
    {
        if (string.IsNullOrWhiteSpace(Limit))
            return;
        (marking, var fault) = CastMarking.Read(Limit, Kind);
        Length? Of(LimitKind kind) => marking!.Limits.Cast<MarkedLimit?>().FirstOrDefault(l => l!.Value.Kind == kind)?.Value;
        if (marking is not null && marking.NotUnderstood.Count == 0)
        {
            var (limits, wrong) = Limits.Create(Kind, Of(LimitKind.Nominal), Of(LimitKind.MachineTo), Of(LimitKind.Discard), shop.Rules);
            (Limits, LimitSays, LimitWrong) = (limits, MarkingEcho.Say(marking, Kind), wrong is { } w ? Words.Say("limit." + w) : null);
            return;
        }
        marking = null;
        var result = LengthParser.Parse(Limit, Reader.Unit);
        if (result.Typed is not { } typed)
        {
            LimitWrong =
                fault is { } f && f != MarkingFault.NoFigure ? Words.Say("marking." + f) : Words.Of(result.Fault!.Value, Reader.Unit);
            return;
        }
        if (Plausibility.QuestionLimit(typed.Value, Kind) is not null)
        {
            LimitWrong = Words.Say("marking.CannotBe");
            return;
        }
        (Limits, LimitSays) = (Limits.Create(Kind, null, null, typed.Value, shop.Rules).Limits, Words.Say("check.discard", typed.Echo));
    }

    private async Task<string> NewTagAsync(CancellationToken cancel)
    {
        while (true)
        {
            var tag = RandomNumberGenerator.GetString(ReceiveModel.TagLetters, 5);
            if (!await db.Parts.AnyAsync(p => p.Tag == tag, cancel))
                return tag;
        }
    }

    public (string Mark, string Word, string Css) Answer =>
        (Discard, MachineTo) switch
        {
            (null, _) => ("toread", Words.Say("check.typeALimitAndA"), ""),
            (Verdict.Beyond, _) => ("over", Words.Say("check.beyondDiscard"), "is-over"),
            (Verdict.TooClose, _) => ("close", Words.Say("check.tooCloseToDiscardTo"), "is-brass"),
            (_, Verdict.Beyond) => ("close", Words.Say("check.insideDiscardNothingLeftTo"), "is-brass"),
            (_, Verdict.TooClose) => ("close", Words.Say("check.insideDiscardCloseToMachine"), "is-brass"),
            _ => ("within", Words.Say("check.withinItsLimits"), "is-blue"),
        };
}
