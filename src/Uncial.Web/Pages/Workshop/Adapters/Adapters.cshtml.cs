using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about an adapter.</summary>
public sealed class AdapterTyped
{
    public string? Name { get; set; }
    public AdapterKind Kind { get; set; }
    public LengthInput? Bore { get; set; }
    public LengthInput? Least { get; set; }
    public LengthInput? Greatest { get; set; }
    public LengthInput? Outside { get; set; }
    public LengthInput? Recess { get; set; }
    public LengthInput? Height { get; set; }
    public string? Count { get; set; }
    public bool Retired { get; set; }
}

/// <summary>The adapters on the board: cones, cups, spacers, chucks, plates, race cones, jaws. The owner enters and changes them.</summary>
public class AdaptersModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private static readonly LengthRule Size = new(Most: MountShape.LargestSize);
    private static readonly LengthRule Needed = Size with { Required = true };

    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty]
    public AdapterTyped Typed { get; set; } = new();

    [BindProperty]
    public int Turn { get; set; }

    public Shop Shop { get; private set; } = null!;
    public BoardAdapter? Chosen { get; private set; }
    public IReadOnlyList<IGrouping<AdapterKind, BoardAdapter>> Board =>
        [.. Shop.Board.OrderBy(a => a.RetiredAt is not null).ThenBy(a => a.Spec.Kind).ThenBy(a => a.Id).GroupBy(a => a.Spec.Kind)];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is { Spec: var a })
        {
            string? L(Length length) =>
                length == Length.Zero ? null : length.In(Reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
            Typed = new()
            {
                Name = a.Name,
                Kind = a.Kind,
                Bore = L(a.Bore),
                Least = L(a.Least),
                Greatest = L(a.Greatest),
                Outside = L(a.Outside),
                Recess = L(a.Recess),
                Height = L(a.Height),
                Count = a.Count.ToString(CultureInfo.InvariantCulture),
                Retired = Chosen.RetiredAt is not null,
            };
        }
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        if (!Reader.IsOwner)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var name = Typed.Name?.Trim() ?? "";
        if (name.Length is 0 or > 60)
            Reject("Typed.Name", Words.Say("adapters.giveItANameOf"));
        else if (Shop.Board.Any(a => a.Id != Chosen?.Id && a.Spec.Name == name))
            Reject("Typed.Name", Words.Say("adapters.anotherAdapterHasThatName"));
        var takes = Typed.Kind is AdapterKind.Cone or AdapterKind.RaceCone or AdapterKind.Chuck or AdapterKind.Jaws;
        var seats = Typed.Kind is AdapterKind.Cup or AdapterKind.Plate;
        var spec = new Adapter
        {
            Name = name,
            Kind = Typed.Kind,
            Bore = OrNone(ReadLength(Typed.Bore, Size)),
            Height = OrNone(ReadLength(Typed.Height, Needed)),
            Least = OrNone(takes ? ReadLength(Typed.Least, Needed) : null),
            Greatest = OrNone(takes ? ReadLength(Typed.Greatest, Needed) : null),
            Outside = OrNone(seats || Typed.Kind == AdapterKind.Spacer ? ReadLength(Typed.Outside, Size with { Required = seats }) : null),
            Recess = OrNone(seats ? ReadLength(Typed.Recess, Needed) : null),
            Count =
                int.TryParse(Typed.Count, NumberStyles.None, CultureInfo.InvariantCulture, out var count) && count is >= 1 and <= 20
                    ? count
                    : 0,
        };
        if (spec.Count == 0)
            Reject("Typed.Count", Words.Say("adapters.howManyTo"));
        if (ModelState.IsValid && takes && spec.Least >= spec.Greatest)
            Reject("Typed.Greatest", Words.Say("adapters.moreThanTheLeast"));
        if (ModelState.IsValid && seats && spec.Recess >= spec.Outside)
            Reject("Typed.Recess", Words.Say("adapters.lessThanTheOutside"));
        if (!ModelState.IsValid)
            return Page();
        var kept = await LatheCommands.KeepAdapterAsync(new(db, Actor, Turn), Shop, Chosen, spec, Typed.Retired, cancel);
        if (kept.Refusal is not { } refusal)
            return Redirect("/adapters/" + kept.Value.Id);
        // What was refused is not what the list shows.
        file.Forget();
        if (await LoadAsync(cancel) is { } gone)
            return gone;
        Reject("Typed.Name", Words.OfChange(refusal));
        return Page();
    }

    private static Length OrNone(TypedLength? typed) => typed?.Value ?? Length.Zero;

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.adapters"), "", "lathes");
        if (Id is null)
            return null;
        Chosen = Shop.Board.Find(a => a.Id == Id);
        return Chosen is null ? NotFound() : null;
    }
}
