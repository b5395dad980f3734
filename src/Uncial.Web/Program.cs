using System.Net;
using System.Text.Json.Serialization;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Mvc.TagHelpers;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Practice;
using Uncial.Web;
using Uncial.Web.Accounts;
using Uncial.Web.Api;
using Uncial.Web.Board;
using Uncial.Web.Devices;
using Uncial.Web.Events;
using Uncial.Web.Hosting;
using Uncial.Web.Network;
using Uncial.Web.Pages;

if (ShopCommand.Is(args))
    return await ShopCommand.RunAsync(args, Environment.GetEnvironmentVariable("ConnectionStrings__Uncial") ?? "", Console.Out);

var builder = WebApplication.CreateBuilder(args);

// Styles and scripts as the build has compressed them. It is what ships: only a developer's edits are looked for.
builder.WebHost.UseStaticWebAssets();
if (!builder.Environment.IsDevelopment())
    (builder.Configuration["ReloadStaticAssetsAtRuntime"], builder.Configuration["EnableStaticAssetsDevelopmentCaching"]) = (
        "false",
        "true"
    );

builder.AddNetwork();

// The application's own login: it adds facts and reads. Nothing that serves ever holds the owner's.
var connection = builder.Configuration.GetConnectionString("Uncial")
    ?? throw new InvalidOperationException("Give the database as ConnectionStrings__Uncial, or start with ./start.");

builder.AddLogs();
builder.AddTelemetry();
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton(services => ScriptMap.Of(services.GetRequiredService<EndpointDataSource>()));
builder.Services.AddSingleton<News>();
builder.Services.AddSingleton<BoardKeeper>().AddSingleton(services => new Lazy<BoardKeeper>(services.GetRequiredService<BoardKeeper>));
builder.Services.AddSingleton<BoardOfSaves>();
builder.Services.AddHostedService(services => services.GetRequiredService<BoardKeeper>());
builder.Services.AddSingleton<ClockWatch>();
builder.Services.AddHostedService(services => services.GetRequiredService<ClockWatch>());
builder.Services.AddHostedService<HeadKeeper>();
builder.Services.AddSingleton<BackupState>();
builder.Services.AddSingleton(services => ActivatorUtilities.CreateInstance<DeviceOwners>(services, connection));
builder.Services.AddSingleton<DeviceRelay>().AddSingleton<LiveGauges>().AddSingleton<LiveLathes>();
builder.Services.AddSingleton(services => ActivatorUtilities.CreateInstance<NewsListener>(services, connection));
builder.Services.AddHostedService(services => services.GetRequiredService<NewsListener>());
builder.Services.AddHostedService(services => services.GetRequiredService<DeviceOwners>());
builder.Services.AddHostedService(services => services.GetRequiredService<DeviceRelay>());
builder.Services.AddHostedService(services => services.GetRequiredService<LiveGauges>());
builder.Services.AddHostedService(services => services.GetRequiredService<LiveLathes>());
builder.Services.AddPooledDbContextFactory<UncialDb>(
    (services, options) => UncialDbOptions.Use(options, connection).AddInterceptors(services.GetRequiredService<BoardOfSaves>())
);
var practice = builder.Configuration.GetConnectionString("Practice")
    ?? throw new InvalidOperationException("Give the database of practice as ConnectionStrings__Practice, or start with ./start.");

// The shop's database; for an attempt at a lesson the attempt's own, under the login of practice.
builder.Services.AddScoped<Practising>();
builder.Services.AddScoped(services =>
    services.GetRequiredService<Practising>().Attempt is { } attempt
        ? PracticeShop.Open(practice, attempt.Id)
        : services.GetRequiredService<IDbContextFactory<UncialDb>>().CreateDbContext()
);
builder.Services.AddDbContextPool<PracticeDb>(options => PracticeDb.Use(options, practice));
builder
    .Services.AddScoped<PracticeDesk>()
    .AddScoped<AttemptDesk>()
    .AddScoped<ClassDesk>()
    .AddScoped<LessonBook>()
    .AddSingleton<ScoreBook>()
    .AddSingleton<PracticeCookie>();
builder.Services.AddHostedService<PracticeKeeper>();
var protection = builder.Services.AddDataProtection().SetApplicationName("Uncial");
if (builder.Configuration["KeyFile"] is { Length: > 0 } keyFile)
    protection.PersistKeysToDbContext<UncialDb>().ProtectKeysWithCertificate(KeyFile.ReadOrMake(keyFile));
else
    protection.UseEphemeralDataProtectionProvider();

builder.Services.AddScoped<PinDesk>();
builder.Services.AddSingleton<SessionTickets>();
builder.Services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie();
builder
    .Services.AddOptions<CookieAuthenticationOptions>(CookieAuthenticationDefaults.AuthenticationScheme)
    .Configure<SessionTickets>(
        (cookie, sessions) =>
        {
            cookie.LoginPath = "/SignIn";
            cookie.AccessDeniedPath = "/SignIn";
            cookie.Cookie.Name = "uncial";
            cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
            cookie.SlidingExpiration = false;
            cookie.SessionStore = sessions;
        }
    );
builder.Services.AddAuthorizationBuilder().SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());

// What a form must hold is said by the page in its own words, not by the binder.
builder
    .Services.AddRazorPages()
    .AddMvcOptions(options =>
    {
        options.SuppressImplicitRequiredAttributeForNonNullableReferenceTypes = true;
        options.ModelBinderProviders.Insert(0, new PlainTexts());
        options.Filters.Add(new UnknownHandlers());
    });

// What is drawn of the bench is kept up to this size, in characters.
builder.Services.Configure<CacheTagHelperOptions>(options => options.SizeLimit = 64 * 1024 * 1024);
builder.Services.AddHttpContextAccessor();
builder.Services.AddScoped<Reader>();
builder.Services.AddSingleton<ShopCache>().AddSingleton<BenchStates>();
builder.Services.AddScoped(services => new ShopFile(
    services.GetRequiredService<UncialDb>(),
    // What is kept of the shop between requests is none of an attempt's.
    services.GetRequiredService<Practising>().Is
        ? new ShopCache()
        : services.GetRequiredService<ShopCache>()
));
builder.Services.AddProblemDetails();
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(options =>
{
    options.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
    options.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    options.SerializerOptions.AllowDuplicateProperties = false;
});
builder.Services.AddOpenApi("v1");
builder.Services.AddHealthChecks().AddNpgSql(UncialDbOptions.Prepared(connection));
builder.Services.AddRateLimiter(options =>
{
    options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
    options.AddPolicy("calculations", context =>
        context.Connection.RemoteIpAddress is { } from && !IPAddress.IsLoopback(from)
            ? RateLimitPartition.GetFixedWindowLimiter(from, _ => new() { PermitLimit = 120, Window = TimeSpan.FromMinutes(1) })
            : RateLimitPartition.GetNoLimiter(IPAddress.Loopback)
    );
    // Nobody finds a trainee's code by trying.
    options.AddPolicy(JoinModel.Limit, context =>
        HttpMethods.IsPost(context.Request.Method)
            ? RateLimitPartition.GetFixedWindowLimiter(context.Connection.RemoteIpAddress ?? IPAddress.None, _ =>
                new() { PermitLimit = JoinModel.TriesAMinute, Window = TimeSpan.FromMinutes(1) }
            )
            : RateLimitPartition.GetNoLimiter(IPAddress.Any)
    );
});

var app = builder.Build();
app.UseNetwork();
if (app.Environment.IsDevelopment())
    app.UseDeveloperExceptionPage();
else
    app.UseExceptionHandler(
        new ExceptionHandlerOptions
        {
            ExceptionHandlingPath = "/Error",
            StatusCodeSelector = RequestGuards.StatusOf,
            AllowStatusCode404Response = true,
            CreateScopeForErrors = true,
        }
    );
app.Use(
    (context, next) =>
    {
        context.Response.Headers.ContentSecurityPolicy =
            $"default-src 'self'; script-src 'self' {context.RequestServices.GetRequiredService<ScriptMap>().Hash}; "
            + "img-src 'self' data:; form-action 'self'; base-uri 'none'; object-src 'none'; frame-ancestors 'none'";
        context.Response.Headers.XContentTypeOptions = "nosniff";
        context.Response.Headers["Referrer-Policy"] = "same-origin";
        context.Response.Headers["Permissions-Policy"] = "camera=(self), geolocation=(), microphone=(), usb=(), payment=()";
        return next();
    }
);
app.Use(RequestGuards.AnswerBadAddressAsync);
app.UseWhen(context => context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal), api => api.Use(BadRequests.AnswerAsync));

// The address of an action, reloaded or come back to after signing in, leads to its page.
app.Use(
    (context, next) =>
    {
        var request = context.Request;
        if (!HttpMethods.IsGet(request.Method) || !request.Query.ContainsKey("handler"))
            return next();
        // Never to another host: two slashes at the beginning would name one.
        context.Response.Redirect(
            "/" + request.Path.Value!.TrimStart('/', '\\') + QueryString.Create(request.Query.Where(q => q.Key != "handler"))
        );
        return Task.CompletedTask;
    }
);

// A page that is not there says so in our own words; what is no page keeps its bare answer.
app.UseWhen(
    context =>
        HttpMethods.IsGet(context.Request.Method)
        && context.Request.Headers.Accept.ToString().Contains("text/html", StringComparison.Ordinal),
    pages => pages.UseStatusCodePagesWithReExecute("/Error")
);
app.UseRouting();
app.UseRateLimiter();
app.UseAuthentication();
app.UseWhen(context => !RequestGuards.IsOfFault(context), asked => asked.Use(PracticeGate.OpenAsync));
app.UseAuthorization();
app.UseWhen(context => !RequestGuards.IsOfFault(context), asked => asked.Use(ShopTimes.SetAsync));

// Styles, scripts and fonts: compressed when the program is built; by their fingerprints kept for good, else asked for with each page.
app.MapStaticAssets().AllowAnonymous();
app.MapRazorPages().WithStaticAssets();
app.MapCalculations();
app.MapScan();
app.MapHandbookDrawings();
app.MapLengthEcho();
app.MapTimeEcho();
app.MapGaugeEcho();
app.MapMarkingEcho();
app.MapBookFile();
app.MapLogbookFile();
app.MapShelfFile();
app.MapBoardFiles();
app.MapShopFiles();
app.MapPhotos();
app.MapGet(TrustFacts.File, (TrustFacts trust) =>
        trust.HasAuthority ? Results.File(trust.Der(), "application/x-x509-ca-cert", "uncial-authority.crt") : Results.NotFound()
    )
    .AllowAnonymous()
    .ExcludeFromDescription();
app.MapNews();
app.MapOpenApi().AllowAnonymous();

// Alive is a process that answers; ready is one whose database answers too.
app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous();
app.MapHealthChecks("/health/ready").AllowAnonymous();
app.MapHealthChecks("/health").AllowAnonymous();

await app.RunAsync();
return 0;

/// <summary>The entry point, public so that the tests can host it.</summary>
public partial class Program;
