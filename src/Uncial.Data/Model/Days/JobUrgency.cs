using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A job was marked urgent, or not urgent any more. The newest counts.</summary>
public class JobUrgency : Fact
{
    public int JobId { get; set; }
    public bool IsUrgent { get; set; }

    /// <summary>Which mark of this job it is, from 1.</summary>
    public int Turn { get; set; }
}

internal sealed class JobUrgencyTable : IEntityTypeConfiguration<JobUrgency>
{
    public void Configure(EntityTypeBuilder<JobUrgency> builder)
    {
        builder.ToTable("job_urgencies").HasOne<Job>().WithMany().HasForeignKey(u => u.JobId).OnDelete(DeleteBehavior.Restrict);
        builder.HasIndex(u => new { u.JobId, u.Turn }).IsUnique();
    }
}
