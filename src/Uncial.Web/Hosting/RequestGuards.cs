using System.Net;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.AspNetCore.Mvc.ModelBinding.Binders;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Web.Hosting;

/// <summary>
/// What is kept from the pages: texts that no database takes, handlers that no page has; and which answer a fault is given.
/// </summary>
internal static class RequestGuards
{
    /// <summary>Longest text that any field takes; files come otherwise.</summary>
    public const int LongestText = 8_000_000;

    /// <summary>
    /// Status of an unhandled fault: what was asked for wrongly is the asker's, what cannot be served now may be asked for again.
    /// </summary>
    public static int StatusOf(Exception fault) =>
        fault switch
        {
            BadHttpRequestException bad => bad.StatusCode,
            TextTooLongException => StatusCodes.Status400BadRequest,
            // A name of a field that no form has: the framework cannot read it.
            ArgumentException { ParamName: "key", Source: "Microsoft.AspNetCore.Mvc.Core" } => StatusCodes.Status400BadRequest,
            DbUpdateConcurrencyException => StatusCodes.Status409Conflict,
            DbUpdateException { InnerException: PostgresException inner } => StatusOf(inner),
            PostgresException { SqlState: ['2', '2', ..] } => StatusCodes.Status400BadRequest,
            PostgresException { SqlState: ['U', 'N' or 'P', ..] or PostgresErrorCodes.UniqueViolation } => StatusCodes.Status409Conflict,
            // The database lets nobody in, as while it starts or is worked on.
            PostgresException { InvariantSeverity: "FATAL" or "PANIC" } => StatusCodes.Status503ServiceUnavailable,
            PostgresException { SqlState: ['4', '0', ..] or ['5', '7', ..] or ['5', '3', ..] or ['0', '8', ..] } =>
                StatusCodes.Status503ServiceUnavailable,
            NpgsqlException { InnerException: System.Net.Sockets.SocketException or IOException or TimeoutException } =>
                StatusCodes.Status503ServiceUnavailable,
            InvalidOperationException { InnerException: NpgsqlException { } away } => StatusOf(away),
            OperationCanceledException => 499,
            _ => StatusCodes.Status500InternalServerError,
        };

    /// <summary>
    /// The page of a fault is being made: it asks the database nothing, which may be what is away. Who asks is known from before, or not.
    /// </summary>
    public static bool IsOfFault(HttpContext http) => http.Features.Get<IExceptionHandlerFeature>() is not null;

    /// <summary>The query without what no text holds: such an address is none of ours.</summary>
    public static Task AnswerBadAddressAsync(HttpContext http, RequestDelegate next)
    {
        if (
            http.Request.Path.Value?.Contains('\0', StringComparison.Ordinal) != true
            && !http.Request.QueryString.Value!.Contains("%00", StringComparison.Ordinal)
        )
            return next(http);
        http.Response.StatusCode = (int)HttpStatusCode.BadRequest;
        return Task.CompletedTask;
    }
}

/// <summary>A handler that the page does not have is not found, instead of a page that was never filled.</summary>
internal sealed class UnknownHandlers : IPageFilter
{
    public void OnPageHandlerSelected(PageHandlerSelectedContext context) { }

    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (context.HandlerMethod is null)
            context.Result = new NotFoundResult();
    }

    public void OnPageHandlerExecuted(PageHandlerExecutedContext context) { }
}

/// <summary>Texts without NUL and without halves of letters.</summary>
internal sealed class PlainTexts : IModelBinderProvider
{
    public IModelBinder? GetBinder(ModelBinderProviderContext context) =>
        context.Metadata.ModelType == typeof(string)
            ? new Binder(new SimpleTypeModelBinder(typeof(string), context.Services.GetRequiredService<ILoggerFactory>()))
            : null;

    private sealed class Binder(IModelBinder inner) : IModelBinder
    {
        public async Task BindModelAsync(ModelBindingContext bindingContext)
        {
            await inner.BindModelAsync(bindingContext);
            if (bindingContext.Result is { IsModelSet: true, Model: string text })
                bindingContext.Result = ModelBindingResult.Success(PlainText.Of(text));
        }
    }
}
