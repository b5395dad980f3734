using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about one work surface when it is received.</summary>
public sealed class SurfaceTyped
{
    public string? Across { get; set; }
    public string? Band { get; set; }
    public string? Nominal { get; set; }
    public string? MachineTo { get; set; }
    public string? Discard { get; set; }
}

/// <summary>Receive: the job ticket, its parts with their tags, and their limits.</summary>
public class ReceiveModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time, LeadSignature signature) : PageModel
{
    internal const string TagLetters = "23456789ABCDEFGHJKMNPQRSTVWXYZ";

    [BindProperty(SupportsGet = true)]
    public int? JobNumber { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Tag { get; set; }

    [BindProperty]
    public string? Vehicle { get; set; }

    [BindProperty]
    public string? Customer { get; set; }

    [BindProperty]
    public string? Odometer { get; set; }

    [BindProperty]
    public string? Promised { get; set; }

    [BindProperty]
    public Corner Corner { get; set; }

    [BindProperty]
    public string Kind { get; set; } = "rotor";

    [BindProperty]
    public string? Mark { get; set; }

    [BindProperty]
    public int Places { get; set; } = 8;

    [BindProperty]
    public int Axes { get; set; } = 4;

    [BindProperty]
    public string? Depths { get; set; }

    /// <summary>How far in from the edge a rotor is read; nothing for the usual one.</summary>
    [BindProperty]
    public string? Radii { get; set; }

    [BindProperty]
    public string? Marking { get; set; }

    /// <summary>Entry of the limit book that is taken; 0 for none.</summary>
    [BindProperty]
    public int Book { get; set; }

    /// <summary>Tag of a part that was here before, or the address on its tag as a scanner sends it.</summary>
    [BindProperty]
    public string? Known { get; set; }

    /// <summary>A part that was taken in again went out marked “do not machine again”.</summary>
    public IReadOnlySet<string> NotAgain { get; private set; } = new HashSet<string>();

    [BindProperty]
    public int Entry { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public string? UnitMarked { get; set; }

    [BindProperty]
    public LimitSource Source { get; set; }

    [BindProperty]
    public int? Lead { get; set; }

    [BindProperty]
    public string? LeadPin { get; set; }

    /// <summary>Where a limit may be read by hand; that of the book comes by its entry.</summary>
    public static IReadOnlyList<LimitSource> SourcesByHand { get; } = [LimitSource.CastMarking, LimitSource.MakersSheet];

    /// <summary>Limits that what was typed would make laxer: a lead signs for that.</summary>
    public IReadOnlyList<(LimitKind Kind, Length Was, Length Is)> Loosens { get; private set; } = [];

    public IReadOnlyList<Operator> Leads { get; private set; } = [];

    public LeadFields LeadFields => new(Leads, Lead, Wrong(LeadSignature.WhoField), Wrong(LeadSignature.PinField));

    [BindProperty]
    public bool Insist { get; set; }

    [BindProperty]
    public SurfaceTyped Main { get; set; } = new();

    [BindProperty]
    public SurfaceTyped Hat { get; set; } = new();

    public Job? Job { get; private set; }
    public IReadOnlyList<(Part Part, IReadOnlyList<SurfaceRecord> Surfaces)> Parts { get; private set; } = [];
    public (Part Part, IReadOnlyList<SurfaceRecord> Surfaces)? Chosen =>
        Parts.Cast<(Part Part, IReadOnlyList<SurfaceRecord> Surfaces)?>().FirstOrDefault(p => p!.Value.Part.Tag == Tag);
    public string? Trouble { get; private set; }
    public bool AsksToInsist { get; private set; }

    /// <summary>What the limit book has for the vehicle of the job.</summary>
    public IReadOnlyList<BookEntry> FromBook { get; private set; } = [];

    public LengthUnit Unit => (UnitMarked ?? reader.UnitName) == "in" ? LengthUnit.Inch : LengthUnit.Millimetre;

    public string? Wrong(string field) => ModelState.TryGetValue(field, out var state) ? state.Errors.FirstOrDefault()?.ErrorMessage : null;

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Job is not null)
            Corner = FirstFreeCorner();
        if (Parts.Count > 0 && Tag is null)
            Kind = KindOf(Parts[^1].Surfaces);
        return Page();
    }

    public async Task<IActionResult> OnPostJobAsync(CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(Vehicle))
            ModelState.AddModelError(nameof(Vehicle), Words.Say("receive.sayWhichVehicleItIs"));
        else if (Vehicle.Trim().Length > 120)
            ModelState.AddModelError(nameof(Vehicle), Words.Say("form.atMost", 120));
        int? kilometres = null;
        if (!string.IsNullOrWhiteSpace(Odometer))
        {
            if (
                int.TryParse(
                    Odometer.Replace(" ", "", StringComparison.Ordinal),
                    NumberStyles.None,
                    CultureInfo.InvariantCulture,
                    out var km
                )
                && km <= 5_000_000
            )
                kilometres = km;
            else
                ModelState.AddModelError(nameof(Odometer), Words.Say("receive.wholeKilometresSuchAs"));
        }
        DateTimeOffset? promised = null;
        if (!string.IsNullOrWhiteSpace(Promised))
        {
            if (DateTime.TryParse(Promised, CultureInfo.InvariantCulture, out var local))
                promised = new DateTimeOffset(local, time.LocalTimeZone.GetUtcOffset(local)).ToUniversalTime();
            else
                ModelState.AddModelError(nameof(Promised), Words.Say("receive.aDayAndATime"));
        }
        if (!ModelState.IsValid)
        {
            await LoadAsync(cancel);
            return Page();
        }

        var job = new Job
        {
            Vehicle = Vehicle!.Trim(),
            Customer = string.IsNullOrWhiteSpace(Customer) ? null : Customer.Trim(),
            OdometerKm = kilometres,
            PromisedAt = promised,
            ReceivedAt = time.GetUtcNow(),
            ReceivedById = reader.OperatorId,
        };
        db.Jobs.Add(job);
        // The sequence gives numbers out one by one; one that a file took meanwhile is passed over.
        for (var tries = 1; ; tries++)
        {
            try
            {
                await db.SaveChangesAsync(cancel);
                break;
            }
            catch (DbUpdateException e)
                when (tries < 5 && e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation })
            {
                job.Number = 0;
            }
        }
        return Redirect($"/receive/{job.Number}");
    }

    public async Task<IActionResult> OnPostPartAsync(CancellationToken cancel)
    {
        Tag = null;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var shop = await file.ShopAsync(cancel);
        if (Kind is not ("rotor" or "drum" or "hat"))
            ModelState.AddModelError(nameof(Kind), Words.Say("receive.rotorOrDrum"));
        if (Corner == Corner.Other && string.IsNullOrWhiteSpace(Mark))
            ModelState.AddModelError(nameof(Mark), Words.Say("receive.giveItANameOr"));
        if (Corner != Corner.Other && Parts.Any(p => p.Part.Corner == Corner && p.Part.Outcome is null))
            ModelState.AddModelError(nameof(Corner), Words.Say("receive.isInAlready", Words.Say("corner." + Corner)));
        if (Places is < 3 or > 12)
            ModelState.AddModelError(nameof(Places), "3 to 12.");
        if (Axes is < 2 or > 4)
            ModelState.AddModelError(nameof(Axes), "2 to 4.");

        var hand = new Actor(reader.OperatorId, time.GetUtcNow());
        var kind = Kind == "drum" ? PartKind.Drum : PartKind.Rotor;
        var entry = FromBook.FirstOrDefault(e => e.Id == Book);
        if (entry is not null && (entry.Kind != kind || entry.InHat))
            ModelState.AddModelError(nameof(Book), Words.Say("receive.thatEntryIsOfThe"));
        else if (entry is not null && !entry.Axle.Takes(Corner))
            ModelState.AddModelError(nameof(Book), Words.Say("receive.thatEntryIsOfThe2"));
        List<WorkSurface> surfaces = [SurfaceOf(nameof(Main), Main, kind, shop, hand, entry, Marking)];
        if (Kind == "hat")
            surfaces.Add(
                SurfaceOf(
                    nameof(Hat),
                    Hat,
                    PartKind.Drum,
                    shop,
                    hand,
                    entry is null ? null : FromBook.FirstOrDefault(e => e.InHat && e.Axle == entry.Axle),
                    null
                )
            );
        if (Kind == "hat")
            surfaces[1].InHat = true;
        if (!ModelState.IsValid)
            return Page();

        var part = new Part
        {
            Tag = await NewTagAsync(cancel),
            Corner = Corner,
            Mark = string.IsNullOrWhiteSpace(Mark) ? null : Mark.Trim(),
            JobId = Job!.Id,
        };
        part.Surfaces.AddRange(surfaces);
        db.Parts.Add(part);
        return await SavedAsync(null, cancel) ? Redirect($"/receive/{Job.Number}") : Page();
    }

    /// <summary>A part that was here before goes on under its tag.</summary>
    public async Task<IActionResult> OnPostAgainAsync(CancellationToken cancel)
    {
        Tag = null;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        Corner = FirstFreeCorner();
        var last = await KnownAsync(cancel);
        if (last is null)
        {
            ModelState.AddModelError(
                nameof(Known),
                string.IsNullOrWhiteSpace(Known) ? "Type or scan its tag." : "No part with that tag was ever here."
            );
            return Page();
        }
        if (ReceiveCommands.RefusesAgain(last) is { } refused)
        {
            ModelState.AddModelError(nameof(Known), Words.Say("again." + refused, Words.Of(last), last.Job!.Number));
            return Page();
        }
        if (last.Corner != Corner.Other && Parts.Any(p => p.Part.Corner == last.Corner && p.Part.Outcome is null))
        {
            ModelState.AddModelError(nameof(Known), Words.Say("receive.isInAlready", Words.Say("corner." + last.Corner)));
            return Page();
        }
        var part = ReceiveCommands.TakeInAgain(last, await file.ShopAsync(cancel), new(reader.OperatorId, time.GetUtcNow()));
        part.JobId = Job!.Id;
        db.Parts.Add(part);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e)
            when (e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.UniqueViolation })
        {
            ModelState.AddModelError(nameof(Known), Words.Say("receive.somebodyElseTookItIn"));
            return Page();
        }
        return Redirect($"/receive/{Job.Number}/{part.Tag}");
    }

    /// <summary>
    /// The last visit of the part whose tag was typed or scanned: a tag, the address of its history, or that of its proof.
    /// </summary>
    private async Task<Part?> KnownAsync(CancellationToken cancel)
    {
        var text = Known?.Trim() ?? "";
        var last = text.Split('?')[0].TrimEnd('/').Split('/')[^1];
        if (text.Contains("/proof/", StringComparison.Ordinal))
            last = await CertificateStore.FindAsync(db, last, cancel) is { } proof ? CertificateStore.Read(proof).Tag : "";
        if (last.Length is 0 or > 12 || !last.All(char.IsAsciiLetterOrDigit))
            return null;
        // Tags are told apart by letter, not by its size.
        return await db.LastVisitAsync(last, cancel);
    }

    public async Task<IActionResult> OnPostLimitsAsync(int surface, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { } chosen || surface < 1 || surface > chosen.Surfaces.Count)
            return NotFound();
        var record = chosen.Surfaces[surface - 1];
        var hand = new Actor(reader.OperatorId, time.GetUtcNow());
        var typed = Limits(nameof(Main), Main, record.Kind, record, record.Shop);
        var marked = ReadMarking(Marking, record.Kind);
        var entry = FromBook.FirstOrDefault(e => e.Id == Book && e.Kind == record.Kind && e.InHat == record.Surface.InHat);
        if (Book != 0 && entry is null)
            ModelState.AddModelError(nameof(Book), Words.Say("receive.thatEntryIsOfThe"));
        else if (entry is not null && !entry.Axle.Takes(chosen.Part.Corner))
            ModelState.AddModelError(nameof(Book), Words.Say("receive.thatEntryIsOfThe2"));
        if (!ModelState.IsValid || (typed.Count + marked.Count == 0 && entry is null))
        {
            if (typed.Count + marked.Count == 0 && ModelState.IsValid)
                ModelState.AddModelError("Main.Discard", Words.Say("receive.typeAtLeastOneLimit"));
            return Page();
        }
        // What is stated is put together apart from the part first, to see what it would make laxer.
        var draft = new WorkSurface { Kind = record.Kind, InHat = record.Surface.InHat };
        if (entry is not null)
            ReceiveCommands.TakeFromBook(draft, entry, hand);
        foreach (var limit in marked)
            KeepMarked(draft, limit, Marking!, hand);
        foreach (var (limit, length) in typed)
            ReceiveCommands.StateLimit(draft, limit, length, Unit, Source, hand);
        List<LimitEntry> stated = [.. draft.LimitEntries.OrderBy(l => l.Kind)],
            before = [],
            laxer = [];
        List<(LimitKind, Length, Length)> loosens = [];
        foreach (var limit in stated)
        {
            var loosened = record.Receiving.WouldLoosen(limit.Kind, limit.Value, limit.Source, before);
            if (loosened.Count > 0)
            {
                laxer.Add(limit);
                loosens.AddRange(loosened);
            }
            before.Add(limit);
        }
        LeadSigned? signed = null;
        if (laxer.Count > 0)
        {
            (Loosens, Leads) = (loosens, await signature.LeadsAsync(cancel));
            if (string.IsNullOrWhiteSpace(Reason))
                ModelState.AddModelError(nameof(Reason), Words.Say("receive.sayWhyTheLaxerFigure"));
            else if (Reason.Length > 300)
                ModelState.AddModelError(nameof(Reason), Words.Say("form.atMost", 300));
            if (
                !ModelState.IsValid
                || (
                    signed = await signature.SignAsync(
                        Lead,
                        LeadPin,
                        chosen.Part.Id,
                        SignedFor.LaxerLimit,
                        [.. laxer.Select(l => Signature.OfLimit(record.Surface.Id, l.Kind, l.Value))],
                        Reason!,
                        ModelState,
                        cancel
                    )
                )
                    is null
            )
                return Page();
        }
        await using var _ = signed;
        for (var i = 0; i < laxer.Count; i++)
            laxer[i].SignatureId = signed!.Ids[i];
        record.Surface.Turn += stated.Count;
        record.Surface.LimitEntries.AddRange(stated);
        if (entry is not null)
            (record.Surface.MaxRunout, record.Surface.MaxVariation) = (draft.MaxRunout, draft.MaxVariation);
        return await SavedAsync(signed, cancel) ? Redirect($"/receive/{Job!.Number}/{Tag}") : Page();
    }

    /// <summary>Saves, with its signature where there is one, or says why the database refused.</summary>
    private async Task<bool> SavedAsync(LeadSigned? by, CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
            if (by is not null)
                await by.Transaction.CommitAsync(cancel);
            return true;
        }
        catch (DbUpdateConcurrencyException)
        {
            Trouble = Words.Say("receive.somebodyElseAddedToThis");
        }
        catch (DbUpdateException e)
            when (e.InnerException is Npgsql.PostgresException { SqlState: var state } && state.StartsWith("UN", StringComparison.Ordinal))
        {
            Trouble = Words.Say("db." + state);
        }
        return false;
    }

    /// <summary>What was typed is about which source holds, not about limits.</summary>
    public bool Settles { get; private set; }

    /// <summary>A lead settles which of two sources of a limit holds.</summary>
    public async Task<IActionResult> OnPostSettleAsync(int surface, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { } chosen || surface < 1 || surface > chosen.Surfaces.Count)
            return NotFound();
        var record = chosen.Surfaces[surface - 1];
        var entry = record.Surface.LimitEntries.Find(l => l.Id == Entry);
        if (entry is null)
            ModelState.AddModelError(nameof(Entry), Words.Say("receive.pickWhichOneHolds"));
        if (string.IsNullOrWhiteSpace(Reason))
            ModelState.AddModelError(nameof(Reason), Words.Say("receive.sayWhyItHolds"));
        else if (Reason.Length > 200)
            ModelState.AddModelError(nameof(Reason), Words.Say("form.atMost", 200));
        Settles = true;
        if (
            !ModelState.IsValid
            || await signature.SignAsync(
                Lead,
                LeadPin,
                chosen.Part.Id,
                SignedFor.Settlement,
                Signature.OfSettlement(entry!.Id),
                Reason!,
                ModelState,
                cancel
            )
                is not { } signed
        )
            return Page();
        await using var _ = signed;
        ReceiveCommands.Settle(record.Surface, entry, Reason!.Trim(), new(reader.OperatorId, time.GetUtcNow()), signed.Id);
        return await SavedAsync(signed, cancel) ? Redirect($"/receive/{Job!.Number}/{Tag}") : Page();
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        ViewData["Title"] = "Receive";
        ViewData["Sub"] = "A new job";
        if (JobNumber is null)
            return null;
        var parts = await db.PartsOfJobAsync(JobNumber.Value, track: true, cancel);
        Job = parts.Count > 0 ? parts[0].Job : await db.Jobs.SingleOrDefaultAsync(j => j.Number == JobNumber, cancel);
        if (Job is null)
            return NotFound();
        var shop = await file.ShopAsync(cancel);
        Parts = [.. parts.Select(p => (p, (IReadOnlyList<SurfaceRecord>)[.. p.Surfaces.Select(s => new SurfaceRecord(s, p, shop))]))];
        var back = parts.Where(p => p.Visit > 1).Select(p => p.Tag).ToList();
        if (back.Count > 0)
            NotAgain = (
                await db
                    .Parts.Where(p => back.Contains(p.Tag) && p.Outcomes.Any(o => o.DoNotMachineAgain && o.Withdrawal == null))
                    .Select(p => p.Tag)
                    .ToListAsync(cancel)
            ).ToHashSet();
        var vehicle = Job.Vehicle;
        FromBook = await db
            .Book.AsNoTracking()
            .Where(e =>
                e.EndedAt == null
                && (
                    EF.Functions.ILike(vehicle, e.Vehicle)
                    || EF.Functions.ILike(vehicle, e.Vehicle + " %")
                    || EF.Functions.ILike(vehicle, e.Vehicle + ",%")
                )
            )
            .OrderBy(e => e.Axle)
            .ThenBy(e => e.Kind)
            .ThenBy(e => e.Id)
            .ToListAsync(cancel);
        ViewData["Sub"] = $"Job {Job.Number}, {Job.Vehicle}" + (Job.Customer is null ? "" : ", " + Job.Customer);
        if (Tag is not null && Chosen is null)
            return NotFound();
        if (Chosen is { } chosen)
        {
            ViewData["Rail"] = RailView.Of(chosen.Surfaces[0], 1, Station.Receive);
            ViewData["Title"] = Words.Of(chosen.Part);
            if (chosen.Surfaces.Any(s => s.Receiving.IsDisputed(LimitKind.MachineTo) || s.Receiving.IsDisputed(LimitKind.Discard)))
                Leads = await signature.LeadsAsync(cancel);
        }
        return null;
    }

    private WorkSurface SurfaceOf(
        string prefix,
        SurfaceTyped typed,
        PartKind kind,
        Shop shop,
        Actor actor,
        BookEntry? entry,
        string? marking
    )
    {
        var limits = Limits(prefix, typed, kind, null, shop);
        var marked = ReadMarking(marking, kind);
        var nominal = limits.Find(l => l.Kind == LimitKind.Nominal).Typed?.Value ?? entry?.Nominal;
        // A drum is as wide as it is new; what nobody measured stays unknown and gives no speed and no minutes.
        var across = Optional(prefix + ".Across", typed.Across) ?? entry?.Across ?? (kind == PartKind.Drum ? nominal : null);
        var surface = new WorkSurface
        {
            Kind = kind,
            Diameter = across ?? Length.Zero,
            Band = Optional(prefix + ".Band", typed.Band) ?? entry?.Band ?? Length.Zero,
            Places = kind == PartKind.Rotor ? Places : Axes,
            DepthsMm = prefix == nameof(Main) ? StationsOf(kind) : [],
        };
        // One depth says nothing of a bell-mouth: unless depths are named, the middle and near both ends.
        if (kind == PartKind.Drum && surface.DepthsMm.Length == 0 && surface.Band > Length.Zero)
            surface.DepthsMm = [.. DrumDepths.Usual(surface.Band).Select(d => d.Millimetres)];
        if (kind == PartKind.Rotor && surface.DepthsMm.Length > 0)
        {
            if (surface.Diameter == Length.Zero)
                ModelState.AddModelError("Main.Across", Words.Say("receive.acrossSeveralRadiiNeedIt"));
            else if (surface.DepthsMm[^1] >= surface.Diameter.Millimetres / 2)
                ModelState.AddModelError(nameof(Radii), Words.Say("receive.thatIsPastTheMiddle"));
        }
        if (entry is not null)
            ReceiveCommands.TakeFromBook(surface, entry, actor);
        foreach (var limit in marked)
            KeepMarked(surface, limit, marking!, actor);
        foreach (var (limit, length) in limits)
            ReceiveCommands.StateLimit(surface, limit, length, Unit, Source, actor);
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
            ModelState.AddModelError("Source", Words.Say("receive.whatTheBookSaysComes"));
        foreach (
            var (limit, text) in new[]
            {
                (LimitKind.Nominal, typed.Nominal),
                (LimitKind.MachineTo, typed.MachineTo),
                (LimitKind.Discard, typed.Discard),
            }
        )
        {
            if (string.IsNullOrWhiteSpace(text))
                continue;
            var result = LengthParser.Parse(text, Unit);
            if (result.Typed is not { } length)
                ModelState.AddModelError($"{prefix}.{limit}", Words.Of(result.Fault!.Value, Unit));
            else if (!Insist && Plausibility.QuestionLimit(length.Value, kind) is not null)
            {
                AsksToInsist = true;
                ModelState.AddModelError(
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
            ModelState.AddModelError(
                $"{prefix}.{(f == LimitFault.MachineToPastDiscard ? LimitKind.MachineTo : LimitKind.Nominal)}",
                Words.Say("limit." + f)
            );
        return all;
    }

    private IReadOnlyList<MarkedLimit> ReadMarking(string? marking, PartKind kind)
    {
        if (string.IsNullOrWhiteSpace(marking))
            return [];
        var (read, fault) = CastMarking.Read(marking, kind);
        if (fault is not null)
            ModelState.AddModelError(nameof(Marking), Words.Say("marking." + fault));
        return read?.Limits ?? [];
    }

    private static void KeepMarked(WorkSurface surface, MarkedLimit limit, string marking, Actor actor) =>
        ReceiveCommands.StateLimit(
            surface,
            limit.Kind,
            new(marking.Trim(), limit.Unit, limit.Value, ""),
            limit.Unit,
            LimitSource.CastMarking,
            actor
        );

    private Length? Optional(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var result = LengthParser.Parse(text, Unit);
        if (result.Fault is { } fault)
            ModelState.AddModelError(field, Words.Of(fault, Unit));
        return result.Typed?.Value;
    }

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
                ModelState.AddModelError(
                    field,
                    kind == PartKind.Drum
                        ? "Depths from the open edge with a space between, such as 12 45."
                        : "How far in from the edge, with a space between, such as 25 45."
                );
        if (stations.Count > most || stations.Distinct().Count() != stations.Count)
            ModelState.AddModelError(field, Words.Say("receive.oneToDifferentOnes", (most == 3 ? "three" : "two")));
        return [.. stations.Order()];
    }

    private Corner FirstFreeCorner() =>
        new[] { Corner.FrontLeft, Corner.FrontRight, Corner.RearLeft, Corner.RearRight, Corner.Other }.First(c =>
            c == Corner.Other || Parts.All(p => p.Part.Corner != c)
        );

    private static string KindOf(IReadOnlyList<SurfaceRecord> surfaces) =>
        surfaces.Count > 1 ? "hat"
        : surfaces[0].Kind == PartKind.Drum ? "drum"
        : "rotor";

    private async Task<string> NewTagAsync(CancellationToken cancel)
    {
        while (true)
        {
            var tag = RandomNumberGenerator.GetString(TagLetters, 5);
            if (!await db.Parts.AnyAsync(p => p.Tag == tag, cancel))
                return tag;
        }
    }
}
