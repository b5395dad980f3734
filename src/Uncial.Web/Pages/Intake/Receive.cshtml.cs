using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Data;
using Uncial.Web.Board;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What is typed about one work surface when it is received.</summary>
public sealed class SurfaceTyped
{
    public LengthInput? Across { get; set; }
    public LengthInput? Band { get; set; }
    public LengthInput? Nominal { get; set; }
    public LengthInput? MachineTo { get; set; }
    public LengthInput? Discard { get; set; }

    /// <summary>Nothing was typed.</summary>
    public bool IsEmpty => new[] { Across, Band, Nominal, MachineTo, Discard }.All(l => string.IsNullOrWhiteSpace(l?.Text));
}

/// <summary>Receive: the job ticket, its parts with their tags, and their limits.</summary>
public partial class ReceiveModel(UncialDb db, ShopFile file, BoardKeeper keeper, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    /// <summary>Corners that are asked about at the counter, in the order in which they stand.</summary>
    public static IReadOnlyList<Corner> AskedCorners { get; } = [Corner.FrontLeft, Corner.FrontRight, Corner.RearLeft, Corner.RearRight];

    /// <summary>What comes off each corner, as it is asked about: rotor, drum or nothing.</summary>
    [BindProperty]
    public Dictionary<string, string?> Comes { get; set; } = [];

    /// <summary>A time that was offered and is taken over.</summary>
    [BindProperty]
    public string? Take { get; set; }

    /// <summary>What was answered at the counter; null where nothing was asked.</summary>
    public PromiseAsked? Asked { get; private set; }

    /// <summary>Answers when the parts can be ready and, where a time was typed, whether by then; or takes an offered time over.</summary>
    public async Task<IActionResult> OnPostPromiseAsync(CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } away)
            return away;
        if (!string.IsNullOrWhiteSpace(Take))
        {
            Promised = Take;
            return Page();
        }
        List<(Corner, PartKind)> parts =
        [
            .. AskedCorners
                .Where(c => Comes.GetValueOrDefault(c.ToString()) is "rotor" or "drum")
                .Select(c => (c, Comes[c.ToString()] == "drum" ? PartKind.Drum : PartKind.Rotor)),
        ];
        if (parts.Count == 0)
            Reject(nameof(Comes), Words.Say("ask.noParts"));
        var by = ReadTime(Promised);
        if (ModelState.IsValid)
            Asked = PromiseAsked.Of(await keeper.NowAsync(cancel), parts, by is { } at ? Dates.Shop.Here(at) : null);
        return Page();
    }

    private const int LongestVehicle = 120;
    private const int LongestReason = 300;
    private const int LongestWhy = 200;
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

    /// <summary>Where a limit may be read by hand; that of the book comes by its entry.</summary>
    public static IReadOnlyList<LimitSource> SourcesByHand { get; } = [LimitSource.CastMarking, LimitSource.MakersSheet];

    /// <summary>Limits that what was typed would make laxer: a lead signs for that.</summary>
    public IReadOnlyList<(LimitKind Kind, Length Was, Length Is)> Loosens { get; private set; } = [];

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
    public bool AsksToInsist { get; private set; }

    /// <summary>The book knows the vehicle, and a part of it waits to be measured: that comes next.</summary>
    public bool GoesOnToMeasure => !IsWrong && FromBook.Count > 0 && Parts.Any(p => p.Surfaces.Any(s => s.Station == Station.Measure));

    /// <summary>Something that was typed is wrong.</summary>
    public bool IsWrong => !ModelState.IsValid;

    /// <summary>What the limit book has for the vehicle of the job.</summary>
    public IReadOnlyList<BookEntry> FromBook { get; private set; } = [];

    public LengthUnit Unit => (UnitMarked ?? Reader.UnitName) == "in" ? LengthUnit.Inch : LengthUnit.Millimetre;

    /// <summary>Vehicles and customers that are proposed for a new job.</summary>
    public IntakeProposals? Proposed { get; private set; }

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
        var vehicle = ReadText(Vehicle, LongestVehicle, "receive.sayWhichVehicleItIs");
        var customer = ReadText(Customer, LongestVehicle);
        var kilometres = ReadKilometres(Odometer);
        var promised = ReadTime(Promised);
        if (!ModelState.IsValid)
        {
            await LoadAsync(cancel);
            return Page();
        }
        Job job = new()
        {
            Vehicle = vehicle!,
            Customer = customer,
            OdometerKm = kilometres,
            PromisedAt = promised,
        };
        return await AnswerAsync(await ReceiveCommands.OpenJobAsync(db, job, Actor, cancel), j => $"/receive/{j.Number}", cancel);
    }

    /// <summary>Goes on where it was done; otherwise shows the page as it is now, with why it was refused.</summary>
    private async Task<IActionResult> AnswerAsync<T>(Result<T> result, Func<T, string> next, CancellationToken cancel)
    {
        if (result.Refusal is not { } refusal)
            return Redirect(next(result.Value));
        Tell(refusal);
        return await LoadAsync(cancel) ?? Page();
    }

    public async Task<IActionResult> OnPostPartAsync(CancellationToken cancel)
    {
        Tag = null;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        var shop = await file.ShopAsync(cancel);
        if (Kind is not ("rotor" or "drum" or "hat"))
            Reject(nameof(Kind), Words.Say("receive.rotorOrDrum"));
        if (Corner == Corner.Other && string.IsNullOrWhiteSpace(Mark))
            Reject(nameof(Mark), Words.Say("receive.giveItANameOr"));
        if (ReceiveCommands.IsInAlready(Job!, Corner))
            Reject(nameof(Corner), Words.Say("receive.isInAlready", Words.Say("corner." + Corner)));
        if (Places is < 3 or > 12)
            Reject(nameof(Places), "3 to 12.");
        if (Axes is < 2 or > 4)
            Reject(nameof(Axes), "2 to 4.");

        var kind = Kind == "drum" ? PartKind.Drum : PartKind.Rotor;
        var entry = FromBook.FirstOrDefault(e => e.Id == Book);
        if (entry is not null && (entry.Kind != kind || entry.InHat))
            Reject(nameof(Book), Words.Say("receive.thatEntryIsOfThe"));
        else if (entry is not null && !entry.Axle.Takes(Corner))
            Reject(nameof(Book), Words.Say("receive.thatEntryIsOfThe2"));
        List<WorkSurface> surfaces = [SurfaceOf(nameof(Main), Main, kind, shop, entry, Marking)];
        if (Kind == "hat")
            surfaces.Add(
                SurfaceOf(
                    nameof(Hat),
                    Hat,
                    PartKind.Drum,
                    shop,
                    entry is null ? null : FromBook.FirstOrDefault(e => e.InHat && e.Axle == entry.Axle),
                    null
                )
            );
        if (Kind == "hat")
            surfaces[1].InHat = true;
        if (!ModelState.IsValid)
            return Page();

        Part part = new()
        {
            Tag = await NewTagAsync(cancel),
            Corner = Corner,
            Mark = string.IsNullOrWhiteSpace(Mark) ? null : Mark.Trim(),
        };
        part.Surfaces.AddRange(surfaces);
        return await AnswerAsync(await ReceiveCommands.TakeInAsync(db, Job!, part, cancel), _ => $"/receive/{Job!.Number}", cancel);
    }

    /// <summary>Entries of the book that both parts of an axle can be taken in by, with the axle: neither of the two is in yet.</summary>
    public IReadOnlyList<BookEntry> PairsOfBook =>
        [
            .. FromBook.Where(e =>
                !e.InHat
                && e.Axle != Axle.Any
                && Corners.Of(e.Axle).All(c => Parts.All(p => p.Part.Corner != c || p.Part.Outcome is not null))
            ),
        ];

    /// <summary>Takes in both parts of an axle by one entry of the book.</summary>
    public async Task<IActionResult> OnPostPairAsync(int pair, CancellationToken cancel)
    {
        Tag = null;
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (PairsOfBook.FirstOrDefault(e => e.Id == pair) is not { } entry)
        {
            Trouble = Words.Say("refused.notNow");
            return Page();
        }
        var shop = await file.ShopAsync(cancel);
        var hat = entry.Kind == PartKind.Rotor ? FromBook.FirstOrDefault(e => e.InHat && e.Axle == entry.Axle) : null;
        List<Part> parts = [];
        foreach (var corner in Corners.Of(entry.Axle))
        {
            Part part = new() { Tag = await NewTagAsync(cancel), Corner = corner };
            part.Surfaces.Add(SurfaceOf(nameof(Main), new(), entry.Kind, shop, entry, null));
            if (hat is not null)
            {
                part.Surfaces.Add(SurfaceOf(nameof(Hat), new(), PartKind.Drum, shop, hat, null));
                part.Surfaces[1].InHat = true;
            }
            parts.Add(part);
        }
        return await AnswerAsync(await ReceiveCommands.TakeInPairAsync(db, Job!, parts, cancel), _ => $"/receive/{Job!.Number}", cancel);
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
            Reject(nameof(Known), Words.Say(string.IsNullOrWhiteSpace(Known) ? "receive.typeItsTag" : "receive.noSuchTag"));
            return Page();
        }
        if (ReceiveCommands.RefusesAgain(last) is { } refused)
        {
            Reject(nameof(Known), Words.Say("again." + refused, Words.Of(last), last.Job!.Number));
            return Page();
        }
        if (ReceiveCommands.IsInAlready(Job!, last.Corner))
        {
            Reject(nameof(Known), Words.Say("receive.isInAlready", Words.Say("corner." + last.Corner)));
            return Page();
        }
        var taken = await ReceiveCommands.TakeInAgainAsync(db, Job!, last, await file.ShopAsync(cancel), Actor, cancel);
        if (taken.Refusal is Refusal.DoneAlready)
        {
            Reject(nameof(Known), Words.Say("receive.somebodyElseTookItIn"));
            return await LoadAsync(cancel) ?? Page();
        }
        return await AnswerAsync(taken, part => $"/receive/{Job!.Number}/{part.Tag}", cancel);
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

    /// <summary>The work surface whose limits are asked for: what was picked, or else the first that has none yet.</summary>
    public int LimitsOf =>
        int.TryParse(Request.HasFormContentType ? Request.Form["surface"] : default, CultureInfo.InvariantCulture, out var picked) ? picked
        : Chosen is { } chosen ? Math.Max(0, chosen.Surfaces.ToList().FindIndex(s => s.Receiving.Limits is null)) + 1
        : 1;

    public async Task<IActionResult> OnPostLimitsAsync(int surface, CancellationToken cancel)
    {
        if (await LoadAsync(cancel) is { } elsewhere)
            return elsewhere;
        if (Chosen is not { } chosen || surface < 1 || surface > chosen.Surfaces.Count)
            return NotFound();
        var record = chosen.Surfaces[surface - 1];
        var typed = Limits(nameof(Main), Main, record.Kind, record, record.Shop);
        var marked = ReadMarking(Marking, record.Kind);
        var entry = FromBook.FirstOrDefault(e => e.Id == Book && e.Kind == record.Kind && e.InHat == record.Surface.InHat);
        if (Book != 0 && entry is null)
            Reject(nameof(Book), Words.Say("receive.thatEntryIsOfThe"));
        else if (entry is not null && !entry.Axle.Takes(chosen.Part.Corner))
            Reject(nameof(Book), Words.Say("receive.thatEntryIsOfThe2"));
        if (!ModelState.IsValid || (typed.Count + marked.Count == 0 && entry is null))
        {
            if (typed.Count + marked.Count == 0 && ModelState.IsValid)
                Reject("Main.Discard", Words.Say("receive.typeAtLeastOneLimit"));
            return Page();
        }
        // What is stated is put together apart from the part first, to see what it would make laxer.
        var draft = new WorkSurface { Kind = record.Kind, InHat = record.Surface.InHat };
        State(draft, entry, marked, Marking, typed);
        var (laxer, loosens) = ReceiveCommands.LaxerOf(record, [.. draft.LimitEntries.OrderBy(l => l.Kind)]);
        string? reason = null;
        if (laxer.Count > 0)
        {
            (Loosens, Leads) = (loosens, await db.LeadsAsync(cancel));
            reason = ReadText(Reason, LongestReason, "receive.sayWhyTheLaxerFigure");
            if (!ModelState.IsValid)
                return Page();
        }
        PartAction action = new(db, record, null, Actor, SignatureTyped);
        return await AnswerAsync(
            await ReceiveCommands.StateLimitsAsync(action, draft, entry is not null, reason, cancel),
            // In practice there is one part, and it is measured next.
            _ =>
                Uncial.Data.Practice.Attempt.IdOf(Tag) is null || chosen.Surfaces.Any(s => s != record && s.Receiving.Limits is null)
                    ? $"/receive/{Job!.Number}/{Tag}"
                    : $"/measure/{Tag}",
            cancel
        );
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
        if (record.Surface.LimitEntries.TrueForAll(l => l.Id != Entry))
            Reject(nameof(Entry), Words.Say("receive.pickWhichOneHolds"));
        Settles = true;
        if (ReadText(Reason, LongestWhy, "receive.sayWhyItHolds") is not { } reason || !ModelState.IsValid)
            return Page();
        PartAction action = new(db, record, null, Actor, SignatureTyped);
        return await AnswerAsync(
            await ReceiveCommands.SettleAsync(action, Entry, reason, cancel),
            _ => $"/receive/{Job!.Number}/{Tag}",
            cancel
        );
    }

    private async Task<IActionResult?> LoadAsync(CancellationToken cancel)
    {
        ViewData["Title"] = Words.Say("title.receive");
        ViewData["Sub"] = Words.Say("receive.aNewJob");
        if (JobNumber is null)
        {
            Proposed = await IntakeQueries.ProposalsAsync(db, cancel);
            return null;
        }
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
        ViewData["Sub"] = Words.Say("receive.job2", Job.Number, Job.Vehicle) + (Job.Customer is null ? "" : ", " + Job.Customer);
        if (Tag is not null && Chosen is null)
            return NotFound();
        if (Chosen is { } chosen)
        {
            ViewData["Rail"] = RailView.Of(chosen.Surfaces[0], 1, Station.Receive);
            ViewData["Title"] = Words.Of(chosen.Part);
            if (chosen.Surfaces.Any(s => s.Receiving.IsDisputed(LimitKind.MachineTo) || s.Receiving.IsDisputed(LimitKind.Discard)))
                Leads = await db.LeadsAsync(cancel);
        }
        return null;
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
