using System.Text;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
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
    public DbSet<CutStop> CutStops => Set<CutStop>();
    public DbSet<FinishEntry> Finishes => Set<FinishEntry>();
    public DbSet<ChatterEntry> Chatters => Set<ChatterEntry>();
    public DbSet<BinEmptied> BinsEmptied => Set<BinEmptied>();
    public DbSet<OutcomeWithdrawal> OutcomeWithdrawals => Set<OutcomeWithdrawal>();
    public DbSet<Certificate> Certificates => Set<Certificate>();
    public DbSet<PrintEntry> Prints => Set<PrintEntry>();
    public DbSet<ChainLink> Chain => Set<ChainLink>();
    public DbSet<LogLine> LogLines => Set<LogLine>();
    public DbSet<CutDraft> CutDrafts => Set<CutDraft>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    private const int ChecksLookedAt = 20;
    private const int MostTries = 4;

    /// <summary>The shop with its lathes, its adapters, its gauges and their latest zero checks, tracked.</summary>
    public async Task<Shop> ShopAsync(CancellationToken cancel)
    {
        var shop = await Shops
            .Include(s => s.Gauges.OrderBy(g => g.Id))
                .ThenInclude(g => g.ZeroChecks.OrderByDescending(c => c.Id).Take(ChecksLookedAt))
            .Include(s => s.Lathes.OrderBy(l => l.Id))
            .Include(s => s.Board.OrderBy(a => a.Id))
            .Include(s => s.OwnTechniques.OrderBy(t => t.Id))
            .AsSplitQuery()
            .SingleAsync(cancel);
        if (shop.RulesId > 0)
            shop.LaxerRules = await RuleChanges
                .AsNoTracking()
                .Where(c => c.Laxer)
                .Include(c => c.By)
                .Include(c => c.Signature!.SignedBy)
                .OrderBy(c => c.Id)
                .ToListAsync(cancel);
        return shop;
    }

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
            var plain = PlainText(text);
            if (!ReferenceEquals(plain, text))
                property.CurrentValue = plain;
        }
    }

    /// <summary>The text without NUL and with halves of letters replaced: neither can be stored as UTF-8.</summary>
    public static string PlainText(string text)
    {
        for (var i = 0; i < text.Length; i++)
            if (
                text[i] == '\0'
                || char.IsSurrogate(text[i]) && !(char.IsHighSurrogate(text[i]) && i + 1 < text.Length && char.IsLowSurrogate(text[++i]))
            )
                return System.Text.Encoding.UTF8.GetString(
                    System.Text.Encoding.UTF8.GetBytes(text.Replace("\0", "", StringComparison.Ordinal))
                );
        return text;
    }

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Length>().HaveConversion<LengthColumn>().HaveColumnType("numeric");
        configurationBuilder.Properties<Enum>().HaveConversion<string>();
    }

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        base.OnModelCreating(modelBuilder);
        var builder = modelBuilder;
        // What Core calls facts are no tables of their own: the rows that hold them are.
        foreach (var fact in typeof(PartFact).Assembly.GetTypes().Where(typeof(PartFact).IsAssignableFrom))
            builder.Ignore(fact);
        People(builder);
        Integrity(builder);
        Texts(builder);
        builder.Entity<Shop>(shop =>
        {
            Json(shop.Property(s => s.Rules));
            shop.HasMany(s => s.Lathes).WithOne().HasForeignKey(l => l.ShopId).OnDelete(DeleteBehavior.Restrict);
            shop.HasMany(s => s.Board).WithOne().HasForeignKey(l => l.ShopId).OnDelete(DeleteBehavior.Restrict);
            shop.HasMany(s => s.OwnTechniques).WithOne().HasForeignKey(t => t.ShopId).OnDelete(DeleteBehavior.Restrict);
            shop.HasMany(s => s.Gauges).WithOne().HasForeignKey(g => g.ShopId).OnDelete(DeleteBehavior.Restrict);
        });
        Json(builder.Entity<ShopLathe>().ToTable("lathes").Property(l => l.Profile));
        Json(builder.Entity<BoardAdapter>().ToTable("adapters").Property(a => a.Spec));
        builder.Entity<InsertEvent>(entry =>
        {
            entry
                .ToTable("insert_events")
                .HasIndex(e => new
                {
                    e.LatheId,
                    e.Holder,
                    e.At,
                });
            entry.HasOne<ShopLathe>().WithMany().HasForeignKey(e => e.LatheId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<MountEntry>(mount =>
        {
            mount.ToTable("mounts").HasIndex(m => new { m.LatheId, m.At });
            mount.HasOne<ShopLathe>().WithMany().HasForeignKey(m => m.LatheId).OnDelete(DeleteBehavior.Restrict);
            mount.Property(m => m.Document).HasColumnType("jsonb");
        });
        builder
            .Entity<SetUpEntry>()
            .ToTable("set_up_checks")
            .HasOne(s => s.Mount)
            .WithMany()
            .HasForeignKey(s => s.MountId)
            .OnDelete(DeleteBehavior.Restrict);
        builder.Entity<SetUpDecision>(decision =>
        {
            decision
                .ToTable("set_up_decisions")
                .HasOne(d => d.Check)
                .WithMany()
                .HasForeignKey(d => d.CheckId)
                .OnDelete(DeleteBehavior.Restrict);
            decision.HasOne<MountEntry>().WithMany().HasForeignKey(d => d.MountId).OnDelete(DeleteBehavior.Restrict);
        });
        Json(builder.Entity<ShopTechnique>().ToTable("techniques").Property(t => t.Spec));
        builder.Entity<CutStart>(start =>
        {
            // Two hands cannot start the same pass.
            start
                .ToTable("cut_starts")
                .HasIndex(s => new
                {
                    s.PlanId,
                    s.Index,
                    s.Attempt,
                })
                .IsUnique();
            start.HasIndex(s => new { s.LatheId, s.Id });
            start.HasOne(s => s.Plan).WithMany().HasForeignKey(s => s.PlanId).OnDelete(DeleteBehavior.Restrict);
            start.HasOne<ShopLathe>().WithMany().HasForeignKey(s => s.LatheId).OnDelete(DeleteBehavior.Restrict);
            start.HasOne(s => s.Stop).WithOne().HasForeignKey<CutStop>(s => s.StartId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CutStop>().ToTable("cut_stops");
        builder.Entity<FinishEntry>().ToTable("finishes");
        builder.Entity<ChatterEntry>(chatter =>
        {
            chatter.ToTable("chatters").HasIndex(c => c.LatheId);
            chatter.HasOne<ShopLathe>().WithMany().HasForeignKey(c => c.LatheId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<BinEmptied>().ToTable("bins_emptied");
        builder.Entity<CutDraft>(draft =>
        {
            draft.ToTable("cut_drafts").Property(d => d.SurfaceId).ValueGeneratedNever();
            draft.Property(d => d.Document).HasColumnType("jsonb");
            draft.HasOne<WorkSurface>().WithMany().HasForeignKey(d => d.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Gauge>().HasMany(g => g.ZeroChecks).WithOne().HasForeignKey(c => c.GaugeId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<ZeroCheckEntry>().ToTable("zero_checks").HasIndex(c => new { c.GaugeId, c.Id });
        builder.Entity<Job>(job =>
        {
            job.HasIndex(j => j.Number).IsUnique();
            job.Property(j => j.Number).HasDefaultValueSql("nextval('job_number')");
            job.HasOne(j => j.ReceivedBy).WithMany().OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Part>(part =>
        {
            part.HasIndex(p => new { p.Tag, p.Visit }).IsUnique();
            part.Property(p => p.FactNumber).HasColumnName("number").HasDefaultValue(0);
            part.Property(p => p.Visit).HasDefaultValue(1);
            Json(part.Property(p => p.Shape));
            part.HasMany(p => p.Outcomes).WithOne().HasForeignKey(o => o.PartId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<WorkSurface>(surface =>
        {
            surface.Property(s => s.FactNumber).HasColumnName("number").HasDefaultValue(0);
            surface.HasMany(s => s.LimitEntries).WithOne().HasForeignKey(l => l.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Findings).WithOne().HasForeignKey(l => l.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Settlements).WithOne().HasForeignKey(l => l.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Readings).WithOne().HasForeignKey(r => r.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Plans).WithOne().HasForeignKey(p => p.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Passes).WithOne().HasForeignKey(p => p.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Mounts).WithOne().HasForeignKey(m => m.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.SetUps).WithOne().HasForeignKey(c => c.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.SetUpDecisions).WithOne().HasForeignKey(d => d.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.CutStarts).WithOne().HasForeignKey(c => c.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Finishes).WithOne().HasForeignKey(c => c.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Chatters).WithOne().HasForeignKey(c => c.SurfaceId).OnDelete(DeleteBehavior.Restrict);
            surface.HasMany(s => s.Confirmations).WithOne().HasForeignKey(c => c.SurfaceId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Finding>(finding =>
        {
            finding
                .HasOne(f => f.Withdrawal)
                .WithOne()
                .HasForeignKey<FindingWithdrawal>(w => w.FindingId)
                .OnDelete(DeleteBehavior.Restrict);
            finding.HasOne<Photo>().WithMany().HasForeignKey(f => f.PhotoId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<FindingWithdrawal>().ToTable("finding_withdrawals");
        builder.Entity<LimitSettlement>().HasOne<LimitEntry>().WithMany().HasForeignKey(s => s.EntryId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<BookEntry>(book =>
        {
            book.HasOne(b => b.By).WithMany().OnDelete(DeleteBehavior.Restrict);
            book.Ignore(b => b.Place);
            book.HasIndex(b => new
                {
                    b.Vehicle,
                    b.Axle,
                    b.Kind,
                    b.InHat,
                })
                .IsUnique()
                .HasFilter("ended_at is null");
        });
        builder.Entity<ReadingEntry>(reading =>
        {
            reading.HasOne(r => r.Withdrawal).WithOne().HasForeignKey<Withdrawal>(w => w.ReadingId).OnDelete(DeleteBehavior.Restrict);
            reading.HasOne(r => r.Flag).WithOne().HasForeignKey<ReadingFlag>(f => f.ReadingId).OnDelete(DeleteBehavior.Restrict);
            reading.HasOne<Gauge>().WithMany().HasForeignKey(r => r.GaugeId).OnDelete(DeleteBehavior.Restrict);
            reading.HasOne<ZeroCheckEntry>().WithMany().HasForeignKey(r => r.ZeroCheckId).OnDelete(DeleteBehavior.Restrict);
            reading.Property(r => r.Correction).HasDefaultValueSql("0");
            reading.Property(r => r.AfterCheckId).HasDefaultValueSql("null");
            reading.HasIndex(r => r.Key).IsUnique();
            reading.HasIndex(r => new { r.GaugeId, r.Line }).IsUnique();
        });
        builder.Entity<ReadingFlag>(flag =>
        {
            flag.ToTable("reading_flags").HasIndex(f => f.ReadingId).IsUnique();
            flag.HasOne(f => f.ZeroCheck).WithMany().HasForeignKey(f => f.ZeroCheckId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<PlanEntry>(plan =>
        {
            plan.HasIndex(p => new { p.SurfaceId, p.Version }).IsUnique();
            plan.HasOne<ShopLathe>().WithMany().HasForeignKey(p => p.LatheId).OnDelete(DeleteBehavior.Restrict);
            plan.Property(p => p.Document).HasColumnType("jsonb");
        });
        builder.Entity<PassEntry>(pass =>
        {
            pass.HasIndex(p => new { p.PlanId, p.Index }).IsUnique();
            pass.HasIndex(p => p.At);
            pass.HasOne<ShopLathe>().WithMany().HasForeignKey(p => p.LatheId).OnDelete(DeleteBehavior.Restrict);
            pass.HasIndex(p => new { p.SurfaceId, p.Cut }).IsUnique();
            pass.HasOne(p => p.Plan).WithMany().HasForeignKey(p => p.PlanId).OnDelete(DeleteBehavior.Restrict);
            pass.Property(p => p.Notes).HasColumnType("jsonb");
        });
        builder.Entity<LimitEntry>(entry =>
        {
            entry.Property(e => e.RulesId).HasDefaultValueSql("null");
            entry.HasOne<BookEntry>().WithMany().HasForeignKey(e => e.BookEntryId).OnDelete(DeleteBehavior.Restrict);
            entry.HasOne<LimitEntry>().WithMany().HasForeignKey(e => e.CopiedFromId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Confirmation>().Property(c => c.RulesId).HasDefaultValueSql("null");
        builder
            .Entity<Confirmation>()
            .ToTable(t =>
                t.HasCheckConstraint(
                    "ck_confirmations_release_is_inside_discard",
                    "decision not in ('Release', 'LeadOnly') or (uncertainty_mm > 0 and allowance_mm is not null and "
                        + "case kind when 'Rotor' then worst_mm - discard_mm else discard_mm - worst_mm end >= uncertainty_mm + allowance_mm)"
                )
            );
        builder.Entity<Outcome>(outcome =>
        {
            outcome.HasIndex(o => o.At);
            outcome
                .HasOne(o => o.Withdrawal)
                .WithOne()
                .HasForeignKey<OutcomeWithdrawal>(w => w.OutcomeId)
                .OnDelete(DeleteBehavior.Restrict);
            outcome.HasOne(o => o.Certificate).WithOne().HasForeignKey<Certificate>(c => c.OutcomeId).OnDelete(DeleteBehavior.Restrict);
            outcome.HasOne(o => o.SignedBy).WithMany().OnDelete(DeleteBehavior.Restrict);
        });
        builder
            .Entity<OutcomeWithdrawal>()
            .ToTable("outcome_withdrawals")
            .HasOne(w => w.SignedBy)
            .WithMany()
            .OnDelete(DeleteBehavior.Restrict);
        builder.Entity<Certificate>(certificate =>
        {
            certificate.HasIndex(c => c.Hash);
            certificate.HasMany(c => c.Prints).WithOne().HasForeignKey(p => p.CertificateId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ChainLink>(link =>
        {
            link.ToTable("chain").HasKey(l => new { l.PartId, l.Number });
            link.HasOne<Part>().WithMany().HasForeignKey(l => l.PartId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<LogLine>(line =>
        {
            line.ToTable("log_lines").HasKey(l => l.PartId);
            line.Property(l => l.PartId).ValueGeneratedNever();
            line.HasOne(l => l.Part).WithOne().HasForeignKey<LogLine>(l => l.PartId).OnDelete(DeleteBehavior.Restrict);
            // The order in which the logbook is read, and one index for each thing that it is asked for.
            line.HasIndex(l => new { l.JobNumber, l.PartId });
            line.HasIndex(l => new
            {
                l.Outcome,
                l.JobNumber,
                l.PartId,
            });
            line.HasIndex(l => l.ReceivedAt);
            line.HasIndex(l => l.OutAt);
            line.HasIndex(l => l.People).HasMethod("gin");
            line.HasIndex(l => l.Search).HasMethod("gin").HasOperators("gin_trgm_ops");
        });
        builder.HasPostgresExtension("pg_trgm").HasPostgresExtension("pgcrypto");

        foreach (var entity in builder.Model.GetEntityTypes())
        {
            foreach (
                var key in entity.GetForeignKeys().Where(k => k.PrincipalEntityType.ClrType == typeof(Operator) && IsFact(entity.ClrType))
            )
                key.DeleteBehavior = DeleteBehavior.Restrict;
            // A decision and its signature are of one transaction, and a signature is used once.
            if (entity.ClrType != typeof(Signature) && IsFact(entity.ClrType) && entity.FindNavigation("Signature") is { } signed)
            {
                signed.ForeignKey.DeleteBehavior = DeleteBehavior.Restrict;
                builder.Entity(entity.ClrType).HasIndex("SignatureId").IsUnique();
            }
            if (typeof(PartFact).IsAssignableFrom(entity.ClrType))
                builder.Entity(entity.ClrType).Property(nameof(PartFact.Number)).HasDefaultValue(0);
            foreach (
                var property in entity.GetProperties().Where(p => (Nullable.GetUnderlyingType(p.ClrType) ?? p.ClrType) == typeof(Length))
            )
                property.SetColumnName(Snake(property.Name) + "_mm");
        }
    }

    private static void People(ModelBuilder builder)
    {
        builder.Entity<Operator>(person =>
        {
            person.ToTable("operators", t => t.HasCheckConstraint("ck_operators_role", "role in ('operator', 'lead', 'owner')"));
            person.HasIndex(o => o.UserName).IsUnique();
            person.Ignore(o => o.IsLead);
        });
        builder.Entity<Pin>(pin =>
        {
            pin.ToTable("pins").HasKey(p => p.OperatorId);
            pin.Property(p => p.OperatorId).ValueGeneratedNever();
            pin.HasOne<Operator>().WithOne().HasForeignKey<Pin>(p => p.OperatorId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<EnrolledScreen>(screen =>
        {
            screen.ToTable("screens").HasIndex(s => s.TokenHash).IsUnique();
            screen.HasOne<Operator>().WithMany().HasForeignKey(s => s.EnrolledById).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Session>(session =>
        {
            session.ToTable("sessions").HasIndex(s => s.TokenHash).IsUnique();
            session.HasOne<Operator>().WithMany().HasForeignKey(s => s.OperatorId).OnDelete(DeleteBehavior.Restrict);
            session.HasOne<EnrolledScreen>().WithMany().HasForeignKey(s => s.ScreenId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<PinTry>().ToTable("pin_tries").HasIndex(t => new { t.OperatorId, t.At });
        builder.Entity<PinDelay>().ToTable("pin_delays").HasKey(d => new { d.OperatorId, d.Place });
        builder.Entity<PeopleEvent>().ToTable("people_events");
    }

    private static void Integrity(ModelBuilder builder)
    {
        builder.HasSequence<int>("job_number").StartsAt(1001);
        builder.Entity<Signature>(signature =>
        {
            signature.ToTable("signatures").HasIndex(s => s.PartId);
            signature.HasOne<Part>().WithMany().HasForeignKey(s => s.PartId).OnDelete(DeleteBehavior.Restrict);
            signature.HasOne(s => s.SignedBy).WithMany().HasForeignKey(s => s.SignedById).OnDelete(DeleteBehavior.Restrict);
            signature.Property(s => s.Transaction).HasDefaultValue("");
        });
        builder.Entity<RuleChange>(change =>
        {
            change.ToTable("rule_changes");
            Json(change.Property(c => c.After));
            change
                .Property(c => c.Before)
                .HasColumnType("jsonb")
                .HasConversion(value => StoredJson.Write(value), json => StoredJson.Read<Core.ShopRules>(json));
            change.Property(c => c.Laxer).HasDefaultValue(false);
        });
        builder.Entity<ShopLink>(link =>
        {
            link.ToTable("shop_chain").HasKey(l => l.Number);
            link.Property(l => l.Number).ValueGeneratedNever();
            link.HasIndex(l => new
            {
                l.RefTable,
                l.RefId,
                l.Number,
            });
            link.HasIndex(l => l.At);
        });
        builder.Entity<FactCounter>(counter =>
        {
            counter.ToTable("fact_counters").HasKey(c => c.PartId);
            counter.Property(c => c.PartId).ValueGeneratedNever();
        });
    }

    private static bool IsFact(Type type) => typeof(Fact).IsAssignableFrom(type) || typeof(PartFact).IsAssignableFrom(type);

    /// <summary>Longest texts of the facts that Core describes.</summary>
    private static void Texts(ModelBuilder builder)
    {
        builder.Entity<LimitEntry>().Property(l => l.Typed).HasMaxLength(120);
        builder.Entity<LimitSettlement>().Property(s => s.Reason).HasMaxLength(200);
        builder.Entity<ReadingEntry>(reading =>
        {
            reading.Property(r => r.Typed).HasMaxLength(120);
            reading.Property(r => r.Note).HasMaxLength(200);
        });
        builder.Entity<Withdrawal>().Property(w => w.Reason).HasMaxLength(200);
        builder.Entity<Finding>().Property(f => f.Note).HasMaxLength(200);
        builder.Entity<FindingWithdrawal>().Property(w => w.Reason).HasMaxLength(200);
        builder.Entity<PlanEntry>().Property(p => p.Technique).HasMaxLength(60);
        builder.Entity<MountEntry>().Property(m => m.Centring).HasMaxLength(60);
        builder.Entity<SetUpDecision>().Property(d => d.Reason).HasMaxLength(300);
        builder.Entity<CutStop>().Property(s => s.Reason).HasMaxLength(300);
        builder.Entity<FinishEntry>().Property(f => f.Reason).HasMaxLength(300);
        builder.Entity<Confirmation>().Property(c => c.Reason).HasMaxLength(300);
        builder.Entity<OutcomeWithdrawal>().Property(w => w.Reason).HasMaxLength(300);
    }

    private static void Json<T>(PropertyBuilder<T> property) =>
        property.HasColumnType("jsonb").HasConversion(value => StoredJson.Write(value), json => StoredJson.Read<T>(json));

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
