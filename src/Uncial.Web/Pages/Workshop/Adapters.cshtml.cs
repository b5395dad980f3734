using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
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
    public string? Bore { get; set; }
    public string? Least { get; set; }
    public string? Greatest { get; set; }
    public string? Outside { get; set; }
    public string? Recess { get; set; }
    public string? Height { get; set; }
    public string? Count { get; set; }
    public bool Retired { get; set; }
}

/// <summary>The adapters on the board: cones, cups, spacers, chucks, plates, race cones, jaws. The owner enters and changes them.</summary>
public class AdaptersModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PageModel
{
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

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is { Spec: var a })
        {
            string? L(Length length) =>
                length == Length.Zero ? null : length.In(reader.Unit).ToString("0.######", CultureInfo.InvariantCulture);
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
        if (!reader.IsOwner)
            return Forbid();
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var name = Typed.Name?.Trim() ?? "";
        if (name.Length is 0 or > 60)
            Bad("Name", "Give it a name of at most 60 letters.");
        else if (Shop.Board.Any(a => a.Id != Chosen?.Id && a.Spec.Name == name))
            Bad("Name", "Another adapter has that name.");
        var takes = Typed.Kind is AdapterKind.Cone or AdapterKind.RaceCone or AdapterKind.Chuck or AdapterKind.Jaws;
        var seats = Typed.Kind is AdapterKind.Cup or AdapterKind.Plate;
        var spec = new Adapter
        {
            Name = name,
            Kind = Typed.Kind,
            Bore = Size("Bore", Typed.Bore, false),
            Height = Size("Height", Typed.Height, true),
            Least = takes ? Size("Least", Typed.Least, true) : Length.Zero,
            Greatest = takes ? Size("Greatest", Typed.Greatest, true) : Length.Zero,
            Outside = seats || Typed.Kind == AdapterKind.Spacer ? Size("Outside", Typed.Outside, seats) : Length.Zero,
            Recess = seats ? Size("Recess", Typed.Recess, true) : Length.Zero,
            Count =
                int.TryParse(Typed.Count, NumberStyles.None, CultureInfo.InvariantCulture, out var count) && count is >= 1 and <= 20
                    ? count
                    : 0,
        };
        if (spec.Count == 0)
            Bad("Count", "How many, 1 to 20.");
        if (ModelState.IsValid && takes && spec.Least >= spec.Greatest)
            Bad("Greatest", "More than the least.");
        if (ModelState.IsValid && seats && spec.Recess >= spec.Outside)
            Bad("Recess", "Less than the outside.");
        if (Turn != (Chosen?.Turn ?? 0))
            Bad("Name", "Somebody changed it since; look again.");
        if (!ModelState.IsValid)
            return Page();
        var adapter = Chosen;
        if (adapter is null)
            Shop.Board.Add(adapter = new() { ShopId = Shop.Id, Spec = spec });
        adapter.Spec = spec;
        adapter.RetiredAt = Typed.Retired ? adapter.RetiredAt ?? time.GetUtcNow() : null;
        adapter.Turn++;
        await db.SaveChangesAsync(cancel);
        return Redirect("/adapters/" + adapter.Id);
    }

    private void Bad(string field, string what) => ModelState.AddModelError("Typed." + field, what);

    private Length Size(string field, string? text, bool required)
    {
        if (string.IsNullOrWhiteSpace(text) && !required)
            return Length.Zero;
        var result = LengthParser.Parse(text, reader.Unit);
        if (result.Fault is { } fault)
            Bad(field, Words.Of(fault, reader.Unit));
        else if (result.Typed!.Value > MountShape.LargestSize)
            Bad(field, Words.Say("adapters.thatIsOverMm", reader.SizeWith(MountShape.LargestSize)));
        return result.Typed?.Value ?? Length.Zero;
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        Shop = await file.ShopAsync(Request, cancel);
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = ("Adapters", "", "lathes");
        if (Id is null)
            return null;
        Chosen = Shop.Board.Find(a => a.Id == Id);
        return Chosen is null ? NotFound() : null;
    }
}
