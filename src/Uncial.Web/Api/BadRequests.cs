using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Uncial.Web.Wording;

namespace Uncial.Web.Api;

/// <summary>Turns a body that cannot be read into problem details with the path of the field, whatever was sent.</summary>
internal sealed class BadRequests : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        if (exception is not BadHttpRequestException bad || !httpContext.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal)) return false;
        var json = bad.InnerException as JsonException;
        var path = json?.Path?.TrimStart('$').TrimStart('.') ?? "";
        var message = bad.StatusCode == StatusCodes.Status413PayloadTooLarge ? "api.tooLarge" : json is null || path.Length == 0 ? "api.body" : "api.json";
        await Results.ValidationProblem(new Dictionary<string, string[]> { [path.Length == 0 ? "body" : path] = [Words.Say(message)] })
            .ExecuteAsync(httpContext);
        return true;
    }
}
