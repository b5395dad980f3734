using System.Text.Json;
using Uncial.Web.Text;

namespace Uncial.Web.Api;

/// <summary>Turns a body that cannot be read into problem details with the path of the field, whatever was sent.</summary>
internal static class BadRequests
{
    public static async Task AnswerAsync(HttpContext context, RequestDelegate next)
    {
        try
        {
            await next(context);
            // The framework answers a body that is too large, or of another type, by its number alone.
            if (
                !context.Response.HasStarted
                && context.Response.StatusCode is StatusCodes.Status413PayloadTooLarge or StatusCodes.Status415UnsupportedMediaType
            )
                await ProblemAsync(
                    context,
                    "body",
                    context.Response.StatusCode == StatusCodes.Status413PayloadTooLarge ? "api.tooLarge" : "api.body"
                );
        }
        catch (BadHttpRequestException bad) when (!context.Response.HasStarted)
        {
            var json = bad.InnerException as JsonException;
            var path = json?.Path?.TrimStart('$').TrimStart('.') ?? "";
            var message =
                bad.StatusCode == StatusCodes.Status413PayloadTooLarge ? "api.tooLarge"
                : path.Length == 0 ? "api.body"
                : "api.json";
            await ProblemAsync(context, path.Length == 0 ? "body" : path, message);
        }
    }

    private static Task ProblemAsync(HttpContext context, string field, string message)
    {
        // What is left of the body is not read; the connection ends with the answer.
        context.Response.Headers.Connection = "close";
        return Results.ValidationProblem(new Dictionary<string, string[]> { [field] = [Words.Say(message)] }).ExecuteAsync(context);
    }
}
