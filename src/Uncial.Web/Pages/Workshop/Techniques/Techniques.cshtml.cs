using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about a technique of the shop's own.</summary>
public sealed class TechniqueTyped
{
    public string? Name { get; set; }
    public LengthInput? RoughMin { get; set; }
    public LengthInput? RoughMax { get; set; }
    public LengthInput? FinishMin { get; set; }
    public LengthInput? FinishMax { get; set; }
    public string? MinRough { get; set; }
    public string? MaxRough { get; set; }
    public bool Retired { get; set; }
}

/// <summary>The techniques: the built-in schools and the shop's own beside them. The owner enters and changes the shop's own.</summary>
public class TechniquesModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private static readonly LengthRule Depth = new(AllowZero: true);

    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty]
    public TechniqueTyped Typed { get; set; } = new();

    [BindProperty]
    public int Turn { get; set; }

    public Shop Shop { get; private set; } = null!;
    public ShopTechnique? Chosen { get; private set; }
    public IReadOnlyList<ShopTechnique> Own => [.. Shop.OwnTechniques.OrderBy(t => t.RetiredAt is not null).ThenBy(t => t.Id)];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { Spec: var t })
            return Page();
        string L(Length length) => length.In(Reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
        Typed = new()
        {
            Name = t.Key,
            RoughMin = L(t.RoughMin),
            RoughMax = L(t.RoughMax),
            FinishMin = L(t.FinishMin),
            FinishMax = L(t.FinishMax),
            MinRough = t.MinRough.ToString(CultureInfo.InvariantCulture),
            MaxRough = t.MaxRough.ToString(CultureInfo.InvariantCulture),
            Retired = Chosen.RetiredAt is not null,
        };
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (!Reader.IsOwner)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var spec = new Technique(
            Typed.Name?.Trim() ?? "",
            ReadLength(Typed.RoughMin, Depth)?.Value ?? Length.Zero,
            ReadLength(Typed.RoughMax, Depth)?.Value ?? Length.Zero,
            ReadLength(Typed.FinishMin, Depth)?.Value ?? Length.Zero,
            ReadLength(Typed.FinishMax, Depth)?.Value ?? Length.Zero,
            Count("MinRough", Typed.MinRough),
            Count("MaxRough", Typed.MaxRough)
        );
        var taken = Technique
            .BuiltIn.SelectMany(t => new[] { t.Key, Words.Technique(t.Key) })
            .Concat(Shop.OwnTechniques.Where(t => t.Id != Chosen?.Id).Select(t => t.Spec.Key))
            .Concat([PlanState.NoCut, PlanState.Scuff, PlanState.Finished]);
        if (ModelState.IsValid)
            foreach (var fault in TechniqueCheck.Faults(spec, taken, Shop.Rules))
                Reject(
                    "Typed."
                        + (
                            fault switch
                            {
                                TechniqueFault.Name or TechniqueFault.NameTaken => "Name",
                                TechniqueFault.RoughRange => "RoughMax",
                                TechniqueFault.FinishRange or TechniqueFault.Nothing => "FinishMax",
                                TechniqueFault.TooHeavy => spec.MaxRough > 0 && spec.RoughMax > Shop.Rules.Cutting.HeaviestPass
                                    ? "RoughMax"
                                    : "FinishMax",
                                _ => "MaxRough",
                            }
                        ),
                    Words.Say("techniqueFault." + fault, Reader.With(Shop.Rules.Cutting.HeaviestPass))
                );
        if (!ModelState.IsValid)
            return Page();
        var kept = await RuleCommands.KeepTechniqueAsync(new(db, Actor, Turn), Shop, Chosen, spec, Typed.Retired, cancel);
        if (kept.Refusal is not { } refusal)
            return Redirect("/techniques/" + kept.Value.Id.ToString(CultureInfo.InvariantCulture));
        // What was refused is not what the list shows.
        file.Forget();
        if (await LoadAsync(cancel) is { } gone)
            return gone;
        Reject("Typed.Name", Words.OfChange(refusal));
        return Page();
    }

    private int Count(string field, string? text)
    {
        if (int.TryParse(string.IsNullOrWhiteSpace(text) ? "0" : text, NumberStyles.None, CultureInfo.InvariantCulture, out var n))
            return n;
        Reject("Typed." + field, Words.Say("techniques.aWholeNumberTo"));
        return 0;
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.techniques"), "", "lathes");
        if (Id is null)
            return null;
        Chosen = Shop.OwnTechniques.Find(t => t.Id == Id);
        return Chosen is null ? NotFound() : null;
    }
}
