using System.Net;
using System.Text.Json.Serialization;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Serilog;
using Uncial.Data;
using Uncial.Web;
using Uncial.Web.Api;
using Uncial.Web.Live;
using Uncial.Web.Pages;

if (ShopCommand.Is(args)) return await ShopCommand.RunAsync(args, Environment.GetEnvironmentVariable("ConnectionStrings__Uncial") ?? "", Console.Out);

var builder = WebApplication.CreateBuilder(args);
var owner = builder.Configuration.GetConnectionString("Uncial")
    ?? throw new InvalidOperationException("Give the database as ConnectionStrings__Uncial, or start with ./start.");
var connection = AppLogin.Of(owner);

builder.Host.UseSerilog((context, log) => log.ReadFrom.Configuration(context.Configuration).WriteTo.Console());
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<News>();
builder.Services.AddSingleton<NewsOfSaves>();
builder.Services.AddHostedService<LiveGauges>();
builder.Services.AddHostedService<LiveLathes>();
builder.Services.AddDbContextPool<UncialDb>((services, options) => UncialDbOptions.Use(options, connection).AddInterceptors(services.GetRequiredService<NewsOfSaves>()));
builder.Services.AddDataProtection().SetApplicationName("Uncial").PersistKeysToDbContext<UncialDb>();

builder.Services.AddIdentityCore<Operator>(options =>
{
    // A PIN at the bench: digits only, locked after five misses.
    options.Password = new() { RequiredLength = 4, RequireDigit = true, RequireLowercase = false, RequireUppercase = false, RequireNonAlphanumeric = false, RequiredUniqueChars = 1 };
    options.Lockout = new() { AllowedForNewUsers = true, MaxFailedAccessAttempts = 5, DefaultLockoutTimeSpan = TimeSpan.FromMinutes(5) };
}).AddRoles<IdentityRole<int>>().AddEntityFrameworkStores<UncialDb>().AddSignInManager().AddClaimsPrincipalFactory<OperatorClaims>();
builder.Services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies();
builder.Services.ConfigureApplicationCookie(cookie =>
{
    cookie.LoginPath = "/SignIn";
    cookie.AccessDeniedPath = "/SignIn";
    cookie.Cookie.Name = "uncial";
    cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
    cookie.SlidingExpiration = true;
});
builder.Services.AddAuthorizationBuilder().SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());

// What a form must hold is said by the page in its own words, not by the binder.
builder.Services.AddRazorPages().AddMvcOptions(options => options.SuppressImplicitRequiredAttributeForNonNullableReferenceTypes = true);
builder.Services.AddHttpContextAccessor();
builder.Services.AddScoped<Reader>();
builder.Services.AddScoped<ShopFile>();
builder.Services.AddScoped<LeadSignature>();
builder.Services.AddProblemDetails();
builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
builder.Services.ConfigureHttpJsonOptions(options =>
{
    options.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
    options.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    options.SerializerOptions.AllowDuplicateProperties = false;
});
builder.Services.AddOpenApi("v1");
builder.Services.AddHealthChecks().AddNpgSql(connection);
builder.Services.AddRateLimiter(options =>
{
    options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
    options.AddPolicy("calculations", context => context.Connection.RemoteIpAddress is { } from && !IPAddress.IsLoopback(from)
        ? RateLimitPartition.GetFixedWindowLimiter(from, _ => new() { PermitLimit = 120, Window = TimeSpan.FromMinutes(1) })
        : RateLimitPartition.GetNoLimiter(IPAddress.Loopback));
});

var app = builder.Build();
app.UseExceptionHandler("/Error");
app.Use((context, next) =>
{
    context.Response.Headers.ContentSecurityPolicy = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'";
    context.Response.Headers.XContentTypeOptions = "nosniff";
    return next();
});
app.UseWhen(context => context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal), api => api.Use(BadRequests.AnswerAsync));
// The address of an action, reloaded or come back to after signing in, leads to its page.
app.Use((context, next) =>
{
    var request = context.Request;
    if (!HttpMethods.IsGet(request.Method) || !request.Query.ContainsKey("handler")) return next();
    context.Response.Redirect(request.Path + QueryString.Create(request.Query.Where(q => q.Key != "handler")));
    return Task.CompletedTask;
});
app.UseStaticFiles(new StaticFileOptions { OnPrepareResponse = file => file.Context.Response.Headers.CacheControl = "no-cache" });
app.UseRouting();
app.UseRateLimiter();
app.UseAuthentication();
app.UseAuthorization();
app.MapRazorPages();
app.MapCalculations();
app.MapGaugeEcho();
app.MapMarkingEcho();
app.MapBookFile();
app.MapLogbookFile();
app.MapShopFiles();
app.MapPhotos();
app.MapNews();
app.MapOpenApi().AllowAnonymous();
app.MapHealthChecks("/health").AllowAnonymous();

await using (var scope = app.Services.CreateAsyncScope())
    await Opening.OpenAsync(scope.ServiceProvider, owner, demo: app.Configuration.GetValue("Demo", false));
await app.RunAsync();
return 0;

/// <summary>The entry point, public so that the tests can host it.</summary>
public partial class Program;
