using System.Globalization;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Practice;
using Uncial.Web.Pages;

namespace Uncial.Web.Accounts;

/// <summary>
/// Whether this request is about an attempt at a lesson: then the database behind it is the attempt's own, and who asks is its trainee and
/// nobody of the shop.
/// </summary>
public sealed class Practising
{
    /// <summary>The attempt; null where the request is about the workshop.</summary>
    public Attempt? Attempt { get; private set; }

    /// <summary>The work surface that the request is about; null where it is about the workshop.</summary>
    public AttemptSurface? Surface { get; private set; }

    /// <summary>Who practises; null in the workshop.</summary>
    public Learner? Learner { get; private set; }

    /// <summary>It is about an attempt.</summary>
    public bool Is => Attempt is not null;

    internal void Begin(Learner learner, Attempt attempt, int surface) =>
        (Learner, Attempt, Surface) = (learner, attempt, attempt.On(surface));
}

/// <summary>Recognises the addresses of an attempt by their tag, and lets its own trainee in.</summary>
internal static class PracticeGate
{
    /// <summary>Where the decision is taken and the debrief is shown.</summary>
    public const string JobPage = "/practice/job/";

    private const long LongestPost = 64 * 1024;

    /// <summary>The stations and pages that an attempt has; no other page of the workshop is opened for one.</summary>
    private static readonly HashSet<string> Stations = new(StringComparer.OrdinalIgnoreCase)
    {
        "receive",
        "look",
        "measure",
        "mount",
        "plan",
        "cut",
        "confirm",
        "release",
        "practice",
    };

    /// <summary>What says beside a field how it is understood.</summary>
    private static readonly HashSet<string> Echoes = new(StringComparer.OrdinalIgnoreCase)
    {
        "lengths",
        "times",
        "days",
        "markings",
        "gauges",
    };

    public static async Task OpenAsync(HttpContext context, RequestDelegate next)
    {
        if (IdOf(context.Request) is not { } id)
        {
            await next(context);
            return;
        }
        if (!IsAllowed(context.Request))
        {
            context.Response.StatusCode = StatusCodes.Status404NotFound;
            return;
        }
        var services = context.RequestServices;
        var cancel = context.RequestAborted;
        var (desk, reader) = (services.GetRequiredService<PracticeDesk>(), services.GetRequiredService<Reader>());
        var learner = reader.IsSignedIn
            ? await desk.MemberAsync(reader.OperatorId, reader.Name, cancel)
            : await desk.GuestAsync(services.GetRequiredService<PracticeCookie>().TokenOf(context.Request), cancel);
        if (await services.GetRequiredService<AttemptDesk>().AttemptAsync(learner, id, cancel) is not { } attempt)
        {
            // Another's, or one that is gone with its guest.
            if (HttpMethods.IsGet(context.Request.Method))
                context.Response.Redirect("/practice");
            else
                context.Response.StatusCode = StatusCodes.Status404NotFound;
            return;
        }
        var page = context.Request.Path.StartsWithSegments("/practice", StringComparison.OrdinalIgnoreCase);
        if (!page && (attempt.IsEnded || context.Request.Path.StartsWithSegments("/release", StringComparison.OrdinalIgnoreCase)))
        {
            // What was decided stays so; and what becomes of the part is decided on a page of its own.
            context.Response.Redirect(JobPage + attempt.Tag);
            return;
        }
        services.GetRequiredService<Practising>().Begin(learner!, attempt, SurfaceOf(context.Request, attempt));
        var trainee = await services.GetRequiredService<UncialDb>().Operators.Select(o => new { o.Id, o.DisplayName }).SingleAsync(cancel);
        context.User = new(
            new ClaimsIdentity(
                [
                    new(ClaimTypes.NameIdentifier, trainee.Id.ToString(CultureInfo.InvariantCulture)),
                    new(ClaimTypes.Name, trainee.DisplayName),
                    new(ClaimTypes.Role, Roles.Operator),
                ],
                "Practice"
            )
        );
        await next(context);
    }

    /// <summary>
    /// What is done to a part of practice takes few letters and no pictures; of a job at the counter, whose answer is the workshop's day,
    /// there is nothing.
    /// </summary>
    private static bool IsAllowed(HttpRequest request) =>
        HttpMethods.IsGet(request.Method)
        || request.ContentLength is <= LongestPost
            && (
                !request.Path.StartsWithSegments("/receive", StringComparison.OrdinalIgnoreCase)
                || request.Query["handler"].ToString() is "Limits" or "Settle"
            );

    /// <summary>The surface that the address names; the first one where it names none.</summary>
    private static int SurfaceOf(HttpRequest request, Attempt attempt) =>
        request.RouteValues.TryGetValue("number", out var number)
        && int.TryParse(number as string, NumberStyles.None, CultureInfo.InvariantCulture, out var surface)
        && surface >= 1
        && surface <= attempt.Lesson.Surfaces
            ? surface
            : 1;

    private static long? IdOf(HttpRequest request)
    {
        var first = request.Path.Value!.Split('/', 3, StringSplitOptions.RemoveEmptyEntries).FirstOrDefault() ?? "";
        if (request.RouteValues.TryGetValue("tag", out var tag) && Attempt.IdOf(tag as string) is { } id)
            return Stations.Contains(first) ? id : null;
        return Echoes.Contains(first) && request.Path.Value!.EndsWith("/echo", StringComparison.Ordinal)
            ? Attempt.IdOf(request.Query["practice"])
            : null;
    }
}
