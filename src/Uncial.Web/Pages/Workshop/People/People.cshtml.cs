using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>People and screens: who works here, in which role, and which screens sign them in. For leads and the owner.</summary>
[Authorize(Roles = Roles.LeadOrOwner)]
public class PeopleModel(UncialDb db, PinDesk pins, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    private const int LongestName = 80;
    private const int ShownTries = 12;

    /// <summary>A line of the sign-in log.</summary>
    public sealed record TryLine(DateTimeOffset At, string Who, string Where, bool? Right, string? Purpose);

    [BindProperty(SupportsGet = true)]
    public int? Id { get; set; }

    [BindProperty]
    public string? NewName { get; set; }

    [BindProperty]
    public string? NewRole { get; set; }

    [BindProperty]
    public Pace? NewPace { get; set; }

    [BindProperty]
    public string? NewPin { get; set; }

    [BindProperty]
    public string? OwnPin { get; set; }

    public IReadOnlyList<Operator> People { get; private set; } = [];
    public IReadOnlyList<EnrolledScreen> Screens { get; private set; } = [];
    public IReadOnlyDictionary<int, int> Misses { get; private set; } = new Dictionary<int, int>();
    public IReadOnlyList<TryLine> Tries { get; private set; } = [];
    public Operator? Chosen { get; private set; }

    /// <summary>Lathes that a screen may stand at.</summary>
    public IReadOnlyList<(int Id, string Name)> Lathes { get; private set; } = [];

    /// <summary>Roles that may be given by who looks: only an owner makes an owner.</summary>
    public IReadOnlyList<string> RolesToGive => Reader.IsOwner ? [Roles.Operator, Roles.Lead, Roles.Owner] : [Roles.Operator, Roles.Lead];

    /// <summary>The chosen person may be managed by who looks.</summary>
    public bool MayManage => Chosen is { } c && (c.Role != Roles.Owner || Reader.IsOwner);

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (Id is not null && Chosen is null)
            return NotFound();
        (NewName, NewRole, NewPace) = (Chosen?.DisplayName, Chosen?.Role ?? Roles.Operator, Chosen?.Pace);
        return Page();
    }

    public Task<IActionResult> OnPostAddAsync(CancellationToken cancel) => ActAsync(PeopleAct.Added, true, cancel);

    public Task<IActionResult> OnPostRenameAsync(CancellationToken cancel) => ActAsync(PeopleAct.Renamed, false, cancel);

    public Task<IActionResult> OnPostRoleAsync(CancellationToken cancel) => ActAsync(PeopleAct.RoleChanged, true, cancel);

    public Task<IActionResult> OnPostPaceAsync(CancellationToken cancel) => ActAsync(PeopleAct.PaceChanged, true, cancel);

    /// <summary>Whether the person is to instruct classes of practice.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Instructs { get; set; }

    public Task<IActionResult> OnPostInstructsAsync(CancellationToken cancel) => ActAsync(PeopleAct.InstructsChanged, true, cancel);

    public Task<IActionResult> OnPostPinAsync(CancellationToken cancel) => ActAsync(PeopleAct.PinChanged, true, cancel);

    public Task<IActionResult> OnPostDisableAsync(CancellationToken cancel) => ActAsync(PeopleAct.Disabled, true, cancel);

    public Task<IActionResult> OnPostEnableAsync(CancellationToken cancel) => ActAsync(PeopleAct.Enabled, true, cancel);

    public Task<IActionResult> OnPostUnlockAsync(CancellationToken cancel) => ActAsync(PeopleAct.Unlocked, false, cancel);

    public async Task<IActionResult> OnPostRetireScreenAsync(int screen, CancellationToken cancel)
    {
        var result = await pins.RetireScreenAsync(Reader.SessionToken, screen, cancel);
        if (result == PeopleResult.Done)
            return Redirect("/people");
        Trouble = Say(result);
        await LoadAsync(cancel);
        return Page();
    }

    /// <summary>Says at which lathe a screen stands.</summary>
    public async Task<IActionResult> OnPostPinScreenAsync(int screen, int? lathe, CancellationToken cancel)
    {
        var result = await pins.PinScreenAsync(Reader.SessionToken, screen, lathe, cancel);
        if (result == PeopleResult.Done)
            return Redirect("/people");
        Trouble = Say(result);
        await LoadAsync(cancel);
        return Page();
    }

    /// <summary>Asks the database to do it; the own PIN goes along where it takes one, and is asked for last.</summary>
    private async Task<IActionResult> ActAsync(PeopleAct act, bool takesPin, CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (act != PeopleAct.Added && Chosen is null)
            return NotFound();
        if (act is PeopleAct.Added or PeopleAct.Renamed && (string.IsNullOrWhiteSpace(NewName) || NewName.Trim().Length > LongestName))
            Reject(nameof(NewName), Words.Say("people.giveTheNameAtMost", LongestName));
        if (
            act is PeopleAct.Added or PeopleAct.PinChanged
            && (NewPin is null || NewPin.Length is < 4 or > 8 || !NewPin.All(char.IsAsciiDigit))
        )
            Reject(nameof(NewPin), Words.Say("people.fourToEightDigits"));
        if (act is PeopleAct.Added or PeopleAct.RoleChanged && !RolesToGive.Contains(NewRole))
            Reject(nameof(NewRole), Words.Say("people.pickARoleThatYou"));
        if (takesPin && string.IsNullOrEmpty(OwnPin))
            Reject(nameof(OwnPin), Words.Say("people.yourOwnPinSoThat"));
        if (!ModelState.IsValid)
            return Page();
        PinAttempt? attempt = null;
        if (takesPin)
        {
            attempt = await pins.BeginAsync(
                Reader.OperatorId,
                OwnPin!,
                ScreenCookie.Of(Request),
                ScreenCookie.AddressOf(HttpContext),
                act.ToString(),
                cancel
            );
            if (attempt.Try is null)
            {
                Reject(nameof(OwnPin), Words.Wait(attempt.WaitSeconds));
                return Page();
            }
        }
        var result = await pins.ManageAsync(
            Reader.SessionToken,
            attempt,
            act,
            Chosen?.Id,
            NewName?.Trim(),
            act switch
            {
                PeopleAct.PaceChanged => (NewPace ?? Pace.Guided).ToString(),
                PeopleAct.InstructsChanged => Instructs ? "Yes" : "No",
                _ => NewRole,
            },
            NewPin,
            cancel
        );
        if (result == PeopleResult.Done)
            return Redirect(act == PeopleAct.Added ? "/people" : $"/people/{Chosen!.Id}");
        switch (result)
        {
            case PeopleResult.WrongPin:
                Reject(nameof(OwnPin), Words.Say("people.thatIsNotYourPin"));
                break;
            case PeopleResult.WeakPin:
                Reject(nameof(NewPin), Say(result));
                break;
            default:
                Trouble = Say(result);
                break;
        }
        return Page();
    }

    internal static string Say(PeopleResult result) =>
        result switch
        {
            PeopleResult.WeakPin => Words.Say("people.tooEasyToGuessNo"),
            PeopleResult.LastOwner => Words.Say("people.theLastOwnerKeepsThe"),
            PeopleResult.NotAllowed => Words.Say("people.yourRoleDoesNotAllow"),
            PeopleResult.SignedOut => Words.Say("people.youAreSignedOutSign"),
            PeopleResult.NotFound => Words.Say("people.itIsNotThereAny"),
            _ => Words.Say("people.thatDidNotWorkLook"),
        };

    private async Task LoadAsync(CancellationToken cancel)
    {
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (
            Words.Say("title.people"),
            Words.Say("people.whoWorksHereAndWhich"),
            "shop"
        );
        People = await db.Operators.AsNoTracking().OrderBy(o => o.DisabledAt != null).ThenBy(o => o.DisplayName).ToListAsync(cancel);
        Chosen = People.FirstOrDefault(p => p.Id == Id);
        Lathes =
        [
            .. (await db.Lathes.AsNoTracking().Where(l => l.RetiredAt == null).OrderBy(l => l.Id).ToListAsync(cancel)).Select(l =>
                (l.Id, l.Profile.Name)
            ),
        ];
        Screens = await db
            .Screens.AsNoTracking()
            .Where(s => s.RetiredAt == null)
            .OrderBy(s => s.Id)
            .Select(s => new EnrolledScreen
            {
                Id = s.Id,
                Name = s.Name,
                TokenHash = Array.Empty<byte>(),
                EnrolledAt = s.EnrolledAt,
                EnrolledById = s.EnrolledById,
                Address = s.Address,
                LatheId = s.LatheId,
            })
            .ToListAsync(cancel);
        Misses = (
            await db
                .PinDelays.AsNoTracking()
                .Where(d => d.OperatorId > 0 && d.Misses > 0)
                .GroupBy(d => d.OperatorId)
                .Select(g => new { g.Key, Most = g.Max(d => d.Misses) })
                .ToListAsync(cancel)
        ).ToDictionary(m => m.Key, m => m.Most);
        var tries = await db
            .PinTries.AsNoTracking()
            .OrderByDescending(t => t.Id)
            .Take(ShownTries)
            .Select(t => new
            {
                t.At,
                t.OperatorId,
                t.ScreenId,
                t.Address,
                t.Right,
                t.Purpose,
            })
            .ToListAsync(cancel);
        Tries =
        [
            .. tries.Select(t => new TryLine(
                t.At,
                People.FirstOrDefault(p => p.Id == t.OperatorId)?.DisplayName ?? "",
                Screens.FirstOrDefault(s => s.Id == t.ScreenId)?.Name
                    ?? (t.ScreenId is null ? Words.Say("people.notEnrolled", t.Address) : Words.Say("people.aRetiredScreen")),
                t.Right,
                t.Purpose
            )),
        ];
    }

    /// <summary>What a try was for, in words.</summary>
    public static string Of(string? purpose) =>
        purpose switch
        {
            "sign-in" => Words.Say("people.signedIn"),
            "enrolment" => Words.Say("people.enrolledAScreen"),
            null => "",
            _ when Enum.TryParse<SignedFor>(purpose, out _) => Words.Say("people.signed"),
            _ => Words.Say("people.changedAnAccount"),
        };
}
