using System.Text;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Uncial.Core.Lengths;

namespace Uncial.Data;

/// <summary>The shop's database. Facts are append-only, by the rights of the database itself (see the migrations).</summary>
public class UncialDb(DbContextOptions<UncialDb> options) : DbContext(options), IDataProtectionKeyContext
{
    public DbSet<Shop> Shops => Set<Shop>();
    public DbSet<Operator> Operators => Set<Operator>();
    public DbSet<Pin> Pins => Set<Pin>();
    public DbSet<EnrolledScreen> Screens => Set<EnrolledScreen>();
    public DbSet<Session> Sessions => Set<Session>();
    public DbSet<PinTry> PinTries => Set<PinTry>();
    public DbSet<PinDelay> PinDelays => Set<PinDelay>();
    public DbSet<PeopleEvent> PeopleEvents => Set<PeopleEvent>();
    public DbSet<Signature> Signatures => Set<Signature>();
    public DbSet<RuleChange> RuleChanges => Set<RuleChange>();
    public DbSet<ShopLink> ShopChain => Set<ShopLink>();
    public DbSet<Job> Jobs => Set<Job>();
    public DbSet<Part> Parts => Set<Part>();
    public DbSet<WorkSurface> Surfaces => Set<WorkSurface>();
    public DbSet<LimitEntry> LimitEntries => Set<LimitEntry>();
    public DbSet<Finding> Findings => Set<Finding>();
    public DbSet<Photo> Photos => Set<Photo>();
    public DbSet<LimitSettlement> LimitSettlements => Set<LimitSettlement>();
    public DbSet<BookEntry> Book => Set<BookEntry>();
    public DbSet<ReadingEntry> Readings => Set<ReadingEntry>();
    public DbSet<Gauge> Gauges => Set<Gauge>();
    public DbSet<ZeroCheckEntry> ZeroChecks => Set<ZeroCheckEntry>();
    public DbSet<ReadingFlag> ReadingFlags => Set<ReadingFlag>();
    public DbSet<Withdrawal> Withdrawals => Set<Withdrawal>();
    public DbSet<PlanEntry> Plans => Set<PlanEntry>();
    public DbSet<PassEntry> Passes => Set<PassEntry>();
    public DbSet<Confirmation> Confirmations => Set<Confirmation>();
    public DbSet<Outcome> Outcomes => Set<Outcome>();
    public DbSet<ShopLathe> Lathes => Set<ShopLathe>();
    public DbSet<BoardAdapter> Adapters => Set<BoardAdapter>();
    public DbSet<InsertEvent> InsertEvents => Set<InsertEvent>();
    public DbSet<MountEntry> Mounts => Set<MountEntry>();
    public DbSet<SetUpEntry> SetUpChecks => Set<SetUpEntry>();
    public DbSet<SetUpDecision> SetUpDecisions => Set<SetUpDecision>();
    public DbSet<ShopTechnique> Techniques => Set<ShopTechnique>();
    public DbSet<CutStart> CutStarts => Set<CutStart>();
    public DbSet<EyeCheck> EyeChecks => Set<EyeCheck>();
    public DbSet<CutStop> CutStops => Set<CutStop>();
    public DbSet<FinishEntry> Finishes => Set<FinishEntry>();
    public DbSet<ChatterEntry> Chatters => Set<ChatterEntry>();
    public DbSet<BinEmptied> BinsEmptied => Set<BinEmptied>();
    public DbSet<OutcomeWithdrawal> OutcomeWithdrawals => Set<OutcomeWithdrawal>();
    public DbSet<Certificate> Certificates => Set<Certificate>();
    public DbSet<PrintEntry> Prints => Set<PrintEntry>();
    public DbSet<ChainLink> Chain => Set<ChainLink>();
    public DbSet<LogLine> LogLines => Set<LogLine>();
    public DbSet<BoardPin> BoardPins => Set<BoardPin>();
    public DbSet<JobUrgency> JobUrgencies => Set<JobUrgency>();
    public DbSet<LatheOutage> LatheOutages => Set<LatheOutage>();
    public DbSet<DayHoursEntry> DayHours => Set<DayHoursEntry>();
    public DbSet<DaySettingsEntry> DaySettings => Set<DaySettingsEntry>();
    public DbSet<DayPlanned> DaysPlanned => Set<DayPlanned>();
    public DbSet<DayHappened> DaysHappened => Set<DayHappened>();
    public DbSet<CutDraft> CutDrafts => Set<CutDraft>();
    public DbSet<LiveDevice> LiveDevices => Set<LiveDevice>();
    public DbSet<GaugeSend> GaugeSends => Set<GaugeSend>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    private const int MostTries = 4;

    /// <summary>Another context of the same database.</summary>
    internal UncialDb Sibling() => new(options);

    /// <summary>Saves; two that wait for one another (a reading and a check of its gauge) are told apart by trying again.</summary>
    public override async Task<int> SaveChangesAsync(bool acceptAllChangesOnSuccess, CancellationToken cancellationToken = default)
    {
        CheckTexts();
        for (var tries = 1; ; tries++)
        {
            try
            {
                return await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
            }
            catch (DbUpdateException e)
                when (tries < MostTries
                    && Database.CurrentTransaction is null
                    && e.InnerException is Npgsql.PostgresException { SqlState: Npgsql.PostgresErrorCodes.DeadlockDetected }
                ) { }
        }
    }

    /// <summary>Texts that are too long, or that no text column takes, never reach the database.</summary>
    private void CheckTexts()
    {
        foreach (var entry in ChangeTracker.Entries().Where(e => e.State is EntityState.Added or EntityState.Modified))
        foreach (
            var property in entry.Properties.Where(p => p.CurrentValue is string && (entry.State == EntityState.Added || p.IsModified))
        )
        {
            var text = (string)property.CurrentValue!;
            if (property.Metadata.GetMaxLength() is { } most && text.Length > most)
                throw new TextTooLongException(entry.Metadata.ClrType.Name, property.Metadata.Name, most);
            var plain = PlainText.Of(text);
            if (!ReferenceEquals(plain, text))
                property.CurrentValue = plain;
        }
    }

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Length>().HaveConversion<LengthColumn>().HaveColumnType("numeric");
        configurationBuilder.Properties<Enum>().HaveConversion<string>();
    }

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        base.OnModelCreating(modelBuilder);
        // What Core calls facts are no tables of their own: the rows that hold them are.
        foreach (var fact in typeof(PartFact).Assembly.GetTypes().Where(typeof(PartFact).IsAssignableFrom))
            modelBuilder.Ignore(fact);
        modelBuilder.ApplyConfigurationsFromAssembly(typeof(UncialDb).Assembly);
        modelBuilder.HasSequence<int>("job_number").StartsAt(1001);
        modelBuilder.HasPostgresExtension("pg_trgm").HasPostgresExtension("pgcrypto");
        foreach (var entity in modelBuilder.Model.GetEntityTypes())
        {
            if (typeof(Fact).IsAssignableFrom(entity.ClrType) || typeof(PartFact).IsAssignableFrom(entity.ClrType))
                Fact(modelBuilder, entity);
            foreach (
                var property in entity.GetProperties().Where(p => (Nullable.GetUnderlyingType(p.ClrType) ?? p.ClrType) == typeof(Length))
            )
                property.SetColumnName(Snake(property.Name) + "_mm");
        }
    }

    /// <summary>What holds of every fact: nobody who stated one is removed, and a signature is used once.</summary>
    private static void Fact(ModelBuilder builder, IMutableEntityType entity)
    {
        foreach (var key in entity.GetForeignKeys().Where(k => k.PrincipalEntityType.ClrType == typeof(Operator)))
            key.DeleteBehavior = DeleteBehavior.Restrict;
        // A decision and its signature are of one transaction.
        if (entity.ClrType != typeof(Signature) && entity.FindNavigation("Signature") is { } signed)
        {
            signed.ForeignKey.DeleteBehavior = DeleteBehavior.Restrict;
            builder.Entity(entity.ClrType).HasIndex("SignatureId").IsUnique();
        }
        if (typeof(PartFact).IsAssignableFrom(entity.ClrType))
            builder.Entity(entity.ClrType).Property(nameof(PartFact.Number)).HasDefaultValue(0);
    }

    private static string Snake(string name)
    {
        var text = new StringBuilder();
        foreach (var c in name)
        {
            if (char.IsUpper(c) && text.Length > 0)
                text.Append('_');
            text.Append(char.ToLowerInvariant(c));
        }
        return text.ToString();
    }
}
