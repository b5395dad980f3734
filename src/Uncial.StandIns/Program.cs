using Microsoft.Extensions.FileProviders;
using Uncial.Core.Lengths;
using Uncial.StandIns;

// Plays a micrometer, a drum gauge and an indicator: on three ports after that of the page on which their spindles are turned.
var builder = WebApplication.CreateBuilder(args);
var port = builder.Configuration.GetValue("page", 5090);
var look = builder.Configuration["look"];
builder.WebHost.UseUrls($"http://127.0.0.1:{port}");
builder.Logging.SetMinimumLevel(LogLevel.Warning);
var app = builder.Build();

StandInGauge[] gauges =
[
    new("Micrometer 1", port + 1, 24.31m, 0.001m),
    new("Drum gauge 1", port + 2, 228.62m, 0.01m),
    new("Indicator 1", port + 3, 0.06m, 0.01m),
];
foreach (var gauge in gauges) gauge.Open();
app.Lifetime.ApplicationStopping.Register(() => { foreach (var gauge in gauges) gauge.Close(); });

// Only pages of its own turn the spindles.
app.Use((context, next) =>
{
    if (HttpMethods.IsPost(context.Request.Method) && context.Request.Headers["X-Stand-In"] != "1") { context.Response.StatusCode = StatusCodes.Status403Forbidden; return Task.CompletedTask; }
    return next();
});
app.UseDefaultFiles();
app.UseStaticFiles();
if (look is not null && Directory.Exists(look)) app.UseStaticFiles(new StaticFileOptions { FileProvider = new PhysicalFileProvider(Path.GetFullPath(look)), RequestPath = "/look" });

app.MapGet("/gauges", () => gauges.Select((g, i) => new
{
    id = i, name = g.Name, shows = g.Shows, unit = LengthText.Name(g.Unit), step = g.Step, stable = g.IsStable, battery = g.Battery, silent = g.IsSilent, hosts = g.Hosts, answer = g.Answer, port = g.Port,
}));
app.MapPost("/gauges/{id:int}/turn", async (int id, decimal? to, decimal? by, string? unit, bool? stable, int? battery) =>
{
    if (id < 0 || id >= gauges.Length) return Results.NotFound();
    await gauges[id].TurnAsync(to, by, unit switch { "in" => LengthUnit.Inch, "mm" => LengthUnit.Millimetre, _ => null }, stable, battery);
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/send", async (int id) =>
{
    if (id < 0 || id >= gauges.Length) return Results.NotFound();
    await gauges[id].SendAsync();
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/silent", (int id, bool on) =>
{
    if (id < 0 || id >= gauges.Length) return Results.NotFound();
    gauges[id].IsSilent = on;
    return Results.NoContent();
});
app.MapPost("/gauges/{id:int}/off", (int id, bool on) =>
{
    if (id < 0 || id >= gauges.Length) return Results.NotFound();
    if (on) gauges[id].Close(); else gauges[id].Open();
    return Results.NoContent();
});
await app.RunAsync();
