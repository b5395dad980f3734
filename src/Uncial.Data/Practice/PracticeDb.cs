using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Npgsql;

namespace Uncial.Data.Practice;

/// <summary>
/// Practice, in a schema and under a login of its own: nothing of the shop is reached from here, and nothing of it is a record of a part.
/// </summary>
public class PracticeDb(DbContextOptions<PracticeDb> options) : DbContext(options)
{
    public const string Schema = "practice";

    /// <summary>
    /// Connections of practice at once, of its own tables and of the shops of its attempts each: who practises waits a moment for one, and
    /// leaves the workshop what it needs.
    /// </summary>
    public const int MostConnections = 16;

    public DbSet<Learner> Learners => Set<Learner>();
    public DbSet<DrillRun> DrillRuns => Set<DrillRun>();
    public DbSet<DrillAnswer> DrillAnswers => Set<DrillAnswer>();
    public DbSet<OwnLesson> Lessons => Set<OwnLesson>();

    public DbSet<PracticeClass> Classes => Set<PracticeClass>();
    public DbSet<Attempt> Attempts => Set<Attempt>();

    public static DbContextOptions<PracticeDb> For(string connection)
    {
        var builder = new DbContextOptionsBuilder<PracticeDb>();
        Use(builder, connection);
        return builder.Options;
    }

    public static DbContextOptionsBuilder Use(DbContextOptionsBuilder builder, string connection) =>
        builder
            .UseNpgsql(
                UncialDbOptions.Prepared(new NpgsqlConnectionStringBuilder(connection) { MaxPoolSize = MostConnections }.ConnectionString),
                // A connection that a restart of the database has ended is found out by using it: the next one is tried at once.
                npgsql => npgsql.MigrationsHistoryTable("migrations", Schema).EnableRetryOnFailure(3, TimeSpan.FromMilliseconds(200), null)
            )
            .UseSnakeCaseNamingConvention();

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder) =>
        configurationBuilder.Properties<Enum>().HaveConversion<string>().HaveMaxLength(40);

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.HasDefaultSchema(Schema);
        modelBuilder.Entity<Learner>(learner =>
        {
            learner.ToTable("learners");
            learner.Ignore(l => l.IsGuest).Ignore(l => l.IsTrainee);
            learner.HasOne(l => l.Class).WithMany(c => c.Trainees).HasForeignKey(l => l.ClassId).OnDelete(DeleteBehavior.Cascade);
            // Written by the database's own functions alone.
            learner.Property(l => l.ClassId).ValueGeneratedOnAdd();
            learner.Property(l => l.Code).ValueGeneratedOnAdd();
            learner.HasIndex(l => l.TokenHash).IsUnique();
            learner.HasIndex(l => l.OperatorId).IsUnique();
            learner.HasIndex(l => l.ExpiresAt);
        });
        modelBuilder.Entity<DrillRun>(run =>
        {
            run.ToTable("drill_runs");
            run.HasOne<Learner>().WithMany().HasForeignKey(r => r.LearnerId).OnDelete(DeleteBehavior.Cascade);
            run.HasMany(r => r.Answers).WithOne().HasForeignKey(a => a.RunId).OnDelete(DeleteBehavior.Cascade);
            run.Ignore(r => r.IsDone).Ignore(r => r.Next).Ignore(r => r.Right).Ignore(r => r.Score);
            run.HasIndex(r => new { r.LearnerId, r.StartedAt });
        });
        modelBuilder.Entity<Attempt>(attempt =>
        {
            attempt.ToTable("attempts");
            attempt.HasOne<Learner>().WithMany().HasForeignKey(a => a.LearnerId).OnDelete(DeleteBehavior.Cascade);
            attempt.HasOne(a => a.Class).WithMany().HasForeignKey(a => a.ClassId).OnDelete(DeleteBehavior.SetNull);
            attempt.HasMany(a => a.Steps).WithOne().HasForeignKey(s => s.AttemptId).OnDelete(DeleteBehavior.Cascade);
            attempt.Property(a => a.Hand).HasColumnType("jsonb");
            attempt.Property(a => a.Held).HasColumnType("jsonb");
            attempt.HasIndex(a => new { a.LearnerId, a.StartedAt });
        });
        modelBuilder.Entity<AttemptStep>(step =>
        {
            step.ToTable("attempt_steps").HasKey(s => new { s.AttemptId, s.Number });
            step.Property(s => s.Deed).HasColumnType("jsonb");
        });
        modelBuilder.Entity<PracticeClass>(of =>
        {
            of.ToTable("classes");
            of.HasMany(c => c.Lessons).WithOne().HasForeignKey(l => l.ClassId).OnDelete(DeleteBehavior.Cascade);
            of.HasIndex(c => c.InstructorId);
        });
        modelBuilder.Entity<OwnLesson>(lesson => lesson.ToTable("lessons").HasKey(l => l.Id));
        modelBuilder.Entity<ClassLesson>(lesson => lesson.ToTable("class_lessons").HasKey(l => new { l.ClassId, l.Number }));
        modelBuilder.Entity<DrillAnswer>(answer =>
        {
            answer.ToTable("drill_answers").HasKey(a => new { a.RunId, a.Number });
        });
    }
}

/// <summary>Lets the migration tool make a context without a server.</summary>
public class PracticeDbDesign : IDesignTimeDbContextFactory<PracticeDb>
{
    public PracticeDb CreateDbContext(string[] args) => new(PracticeDb.For("Host=127.0.0.1;Database=design"));
}
