using System.Diagnostics;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Uncial.Web.Pages;

/// <summary>What is shown when the application itself failed, or has no such page.</summary>
[AllowAnonymous, IgnoreAntiforgeryToken, ResponseCache(NoStore = true)]
public class ErrorModel : PageModel
{
    public string Number => Activity.Current?.TraceId.ToString() ?? HttpContext.TraceIdentifier;

    /// <summary>Status of the answer.</summary>
    public int Status => Response.StatusCode;

    /// <summary>What is said: by what went wrong.</summary>
    public string Kind =>
        Status switch
        {
            StatusCodes.Status503ServiceUnavailable => "away",
            StatusCodes.Status400BadRequest => "notKept",
            StatusCodes.Status409Conflict => "changed",
            StatusCodes.Status404NotFound => "notFound",
            _ => "failed",
        };

    /// <summary>What cannot be kept, where that is known.</summary>
    public string? What =>
        HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>()?.Error
            is Uncial.Data.Storage.TextTooLongException e
            ? e.Message
            : null;

    public void OnGet() { }

    public void OnPost() { }
}
