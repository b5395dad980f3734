using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Files that go out: a job, the readings of a part, the whole shop.</summary>
internal static class ShopFiles
{
    public static void MapShopFiles(this IEndpointRouteBuilder app)
    {
        app.MapGet("/files/job/{number:int}", async (int number, UncialDb db, ShopFile file, CancellationToken cancel) =>
            {
                if (await db.JobWithFactsAsync(number, cancel) is not { } job)
                    return Results.NotFound();
                return Results.File(
                    Encoding.UTF8.GetBytes(JobFile.Of(job, await file.ShopAsync(cancel)).Write()),
                    "application/json",
                    $"job-{number}.json"
                );
            })
            .ExcludeFromDescription();
        app.MapGet("/part/{tag}/readings.csv", async (string tag, int? visit, UncialDb db, ShopFile file, CancellationToken cancel) =>
            {
                var parts = await db.VisitsAsync(tag, visit, cancel);
                return parts.Count == 0
                    ? Results.NotFound()
                    : Results.File(
                        Encoding.UTF8.GetBytes(ReadingsCsv.Write(parts, await file.ShopAsync(cancel))),
                        "text/csv; charset=utf-8",
                        $"readings-{tag}.csv"
                    );
            })
            .ExcludeFromDescription();
    }
}

/// <summary>Files in and out: a job from another shop is looked at before it is taken in.</summary>
public class FilesModel(UncialDb db, Reader reader, TimeProvider time) : FormPage(reader, time)
{
    [BindProperty]
    public IFormFile? Upload { get; set; }

    /// <summary>Text of the file that is looked at.</summary>
    [BindProperty]
    public string? Text { get; set; }

    [BindProperty]
    public string? FileName { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? Number { get; set; }

    /// <summary>The file without faults and what becomes of it here; null where none is looked at.</summary>
    public JobTakeIn? Preview { get; private set; }
    public IReadOnlyList<FileFault> Faults { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        Head();
        if (Number is not { } number)
            return Page();
        if (await db.Jobs.AnyAsync(j => j.Number == number, cancel))
            return Redirect($"/files/job/{number}");
        Reject(nameof(Number), Words.Say("files.thereIsNoJob", number));
        return Page();
    }

    public async Task<IActionResult> OnPostPreviewAsync(CancellationToken cancel)
    {
        Head();
        if (Upload is not { Length: > 0 })
        {
            Reject(nameof(Upload), Words.Say("files.pickAFile"));
            return Page();
        }
        if (Upload.Length > JobFile.LargestFile)
        {
            Reject(nameof(Upload), Words.Say("files.theFileIsOverMb"));
            return Page();
        }
        using var reading = new StreamReader(Upload.OpenReadStream(), new UTF8Encoding(false, throwOnInvalidBytes: true));
        try
        {
            Text = await reading.ReadToEndAsync(cancel);
        }
        catch (DecoderFallbackException)
        {
            Reject(nameof(Upload), Words.Say("files.theFileIsNoUtf"));
            return Page();
        }
        FileName = Path.GetFileName(Upload.FileName);
        await LookAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostTakeAsync(CancellationToken cancel)
    {
        Head();
        await LookAsync(cancel);
        if (Preview is null)
            return Page();
        var taken = await Preview.TakeInAsync(db, Actor, cancel);
        if (taken.Refusal is not { } refusal)
            return Redirect($"/receive/{taken.Value.Number}");
        Reject(nameof(Upload), refusal is Refusal.DoneAlready ? Words.Say("files.anotherJobTookThatNumber") : Words.Of(refusal));
        return Page();
    }

    private async Task LookAsync(CancellationToken cancel)
    {
        var (job, faults) = JobFile.Read(Text ?? "");
        Faults = faults;
        if (job is not null)
            Preview = await JobTakeIn.PreviewAsync(
                db,
                job,
                () => Task.FromResult(RandomNumberGenerator.GetString(ReceiveModel.TagLetters, 5)),
                cancel
            );
    }

    private void Head() =>
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (Words.Say("title.files"), Words.Say("files.inAndOut"), "logbook");
}
